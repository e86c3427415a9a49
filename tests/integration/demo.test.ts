import { createHash } from "node:crypto";
import { horizonOf } from "@/core/table/horizon";
import { describe, expect, it } from "@jest/globals";
import { compileFacility } from "@/core/compile/compile-facility";
import { required } from "@/core/kernel/invariant";
import { findAll } from "@/core/findings/find";
import { ordinary } from "@/core/paths/paths";
import { askVerdict } from "@/core/paths/trace";
import { parseCivilDay } from "@/core/time/civil-day";
import { reasonAt } from "@/core/paths/verdict";
import { minuteDown, parseInstant } from "@/core/time/instant";
import { readFacility } from "@/intake/formats/facility/read-facility";
import { eventLines, storyLines } from "~/demo/events";
import { judgedOf } from "~/tests/judged";
import { verraneInstitute } from "~/demo/institute";

const size = { cardholders: 420, doors: 95, seed: 7 };
const digest = (text: string): string => createHash("sha256").update(text).digest("hex");

describe("the Verrane Institute", () => {
  const text = JSON.stringify(verraneInstitute(size));
  const checked = readFacility(text);
  if (!checked.ok) throw new Error(JSON.stringify(checked.error.slice(0, 3)));
  const compiled = compileFacility(checked.value.facility);

  it("is the same for the same seed, and another for another", () => {
    expect(digest(JSON.stringify(verraneInstitute(size)))).toBe(digest(text));
    expect(digest(JSON.stringify(verraneInstitute({ ...size, seed: 8 })))).not.toBe(digest(text));
  });

  it("has the same events for the same seed, each granted only where the door opened", () => {
    const lines = [...eventLines(verraneInstitute(size), size.seed)];
    expect(digest([...eventLines(verraneInstitute(size), size.seed)].join())).toBe(digest(lines.join()));
    expect(lines.length).toBeGreaterThan(20_000);
    const once = new Set(storyLines(verraneInstitute(size)));
    expect(lines.filter((line) => once.has(line))).toHaveLength(once.size);
    for (const line of lines.slice(1).filter((one, i) => i % 97 === 0 && !once.has(one))) {
      const [at, door, credential, result] = line.split(",") as [string, string, string, string];
      const reason = reasonAt(
        compiled,
        required(compiled.credentials.at(compiled.credentialById.get(credential) ?? -1), credential),
        required(compiled.doorById.get(door), door),
        minuteDown(required(parseInstant(at), at)),
        ordinary,
      );
      expect(result).toBe(reason === "open" ? "granted" : "refused");
    }
  });

  it("is as large as asked for", () => {
    expect(checked.value.facility.cardholders).toHaveLength(420);
    expect(verraneInstitute({ cardholders: 2000, doors: 200, seed: 1 }).cardholders).toHaveLength(2000);
    expect(verraneInstitute({ cardholders: 2000, doors: 200, seed: 1 }).doors).toHaveLength(200);
  });

  describe("its stories", () => {
    const named = (name: string) =>
      required(
        compiled.cardholders.all().find(({ cardholder }) => cardholder.name === name),
        name,
      );
    const opens = (name: string, door: string, at: string) => {
      const [credential] = named(name).credentials;
      return askVerdict(compiled, {
        credential: required(compiled.facility.credentials[credential ?? -1], name).id,
        door,
        at: minuteDown(required(parseInstant(at), at)),
        mode: ordinary,
      });
    };

    it("gives a curator the vault by night through a group that stands below another", () => {
      const { verdict, paths } = opens("Orsolya Tamm", "v-inner", "2026-11-28T20:30:00Z");
      expect(verdict).toBe("open");
      expect(paths.filter(({ state }) => state === "open").map(({ groups, level }) => ({ groups, level }))).toEqual([
        { groups: ["t-rota", "t-frost"], level: "l-vault-nights" },
      ]);
    });

    it("leaves a door open by an exception behind a level that was withdrawn", () => {
      const { verdict, paths } = opens("Mirte Oakenvik", "v-hall", "2026-11-25T10:00:00Z");
      expect(verdict).toBe("open");
      expect(paths.map(({ level, state }) => [level, state])).toEqual(
        expect.arrayContaining([
          ["l-cooling", "no-longer-in-force"],
          [undefined, "open"],
        ]),
      );
    });

    it("lets a curator who moved keep the levels of her former department", () => {
      expect(opens("Ilse Thornwold", "g-herb-types", "2026-11-25T10:00:00Z").verdict).toBe("open");
      expect(named("Ilse Thornwold").cardholder.department).toBe("d-education");
    });

    it("has closing days for one year only", () => {
      const [mainland] = compiled.calendars;
      const type = (text: string) => mainland?.read(required(parseCivilDay(text), text))?.winner.dayType;
      expect([type("2026-12-29"), type("2027-12-29"), type("2027-12-25")]).toEqual(["company", undefined, "public"]);
    });

    it("has a case of every rule, and far more people who are in order", () => {
      const found = findAll(judgedOf(horizonOf(compiled)));
      for (const rule of ["leaver-live", "expired-active", "around-the-clock"])
        expect([rule, found.findings.some((finding) => finding.rule === rule)]).toEqual([rule, true]);
      const concerned = new Set(found.findings.map(({ cardholder }) => cardholder));
      expect(concerned.size).toBeLessThan(compiled.cardholders.length / 4);
    });
  });
});
