import { writeFileSync } from "node:fs";
import path from "node:path";
import { afterAll, beforeAll, describe, expect, it } from "@jest/globals";
import type { FacilityDocument } from "@/core/facility/document";
import { previewFacility } from "@/operations/intake/preview-contents";
import { unwatched } from "@/operations/ports/progress";
import { storeFacility } from "@/operations/intake/store-contents";
import { required } from "@/core/kernel/invariant";
import type { SourceProfile } from "@/intake/profile/source-profile";
import { readRecord } from "@/operations/evidence/read-record";
import { storeFile } from "@/operations/intake/intake-file";
import { takeBackSnapshot } from "@/operations/intake/take-back";
import { trySource } from "@/operations/intake/try-profile";
import { orchard } from "../browser/orchard";
import { ownDatabase } from "./own-database";
import type { OwnDatabase } from "./own-database";

let own: OwnDatabase;
const who = { signIn: "test" };
const text = (name: string): string => JSON.stringify({ ...orchard, name } satisfies FacilityDocument);
const store = (name: string, on?: number | null, services = own.services) =>
  storeFacility(services, text(name), "controller", who, unwatched, { owns: {}, leaveOut: 0, ...(on !== undefined && { on }) });
const shownOn = async (name: string): Promise<number | null> => {
  const preview = await previewFacility(own.services, text(name), "f.json", unwatched);
  if (preview.kind !== "facility") throw new Error("It is a facility.");
  return preview.on;
};

beforeAll(async () => {
  own = await ownDatabase("nomade_intake");
});
afterAll(() => own.close());

describe("an intake", () => {
  it("is stored only on the snapshot that its effect was shown against: of two that were shown at once, one", async () => {
    expect(await shownOn("First")).toBeNull();
    expect((await store("First", null)).outcome).toBe("stored");
    const [one, other] = [await shownOn("One"), await shownOn("Other")];
    expect([one, other]).toEqual([1, 1]);
    const both = await Promise.all([store("One", one), store("Other", other)]);
    expect(both.map(({ outcome }) => outcome).sort()).toEqual(["refused", "stored"]);
    expect(both.find(({ outcome }) => outcome === "refused")).toMatchObject({
      errors: [{ code: "changed-meanwhile", message: expect.stringMatching(/Snapshot 2 was stored after this was read/) }],
    });
    expect((await store("Third", await shownOn("Third"))).outcome).toBe("stored");
  });

  it("leaves the register as it was where its findings cannot be worked out", async () => {
    const before = (await own.services.snapshots.latest())?.id;
    const failing = { ...own.services, events: { ...own.services.events, uses: () => Promise.reject(new Error("no findings")) } };
    await expect(store("Without findings", undefined, failing)).rejects.toThrow("no findings");
    expect((await own.services.snapshots.latest())?.id).toBe(before);
    expect((await store("With findings")).outcome).toBe("stored");
  });

  it("that is refused leaves what events cover as it was", async () => {
    const file = path.join(own.folder, "coverage.csv");
    writeFileSync(file, "at,door,credential,result\n2026-02-03T08:00:00Z,barn-door,c-iris,granted\n");
    await storeFile(own.services, file, "coverage.csv", "", who, { leaveOut: 0 });
    const [site] = orchard.sites ?? [];
    const covered = async () => (await own.services.events.dates()).get(site?.id ?? "")?.length ?? 0;
    expect(await covered()).toBe(1);
    const elsewhere = {
      ...orchard,
      name: "Elsewhere",
      sites: [...(orchard.sites ?? []), { id: "elsewhere", name: "Elsewhere", timeZone: "Asia/Tokyo" }],
      doors: (orchard.doors ?? []).map(({ area: _area, ...door }) => ({ ...door, site: "elsewhere" })),
    };
    const refused = await storeFacility(own.services, JSON.stringify(elsewhere), "controller", who, unwatched, { owns: {}, leaveOut: 0, on: 1 });
    expect(refused).toMatchObject({ outcome: "refused", errors: [{ code: "changed-meanwhile" }] });
    expect(await covered()).toBe(1);
  });

  it("makes nothing the own of a source that was not named", async () => {
    const named = await own.services.sources.names();
    await storeFacility(own.services, text("Unnamed"), "", who, unwatched);
    expect(await own.services.sources.names()).toEqual(named);
    expect(named).toEqual(["controller"]);
  });

  it("tells of events which doors and credentials the register does not know", async () => {
    const file = path.join(own.folder, "events.csv");
    writeFileSync(
      file,
      "at,door,credential,result\n2026-02-01T08:00:00Z,barn-door,c-iris,granted\n2026-02-01T08:01:00Z,no-door,c-iris,granted\n2026-02-01T08:02:00Z,no-door,no-card,granted\n",
    );
    expect(await storeFile(own.services, file, "events.csv", "", who, { leaveOut: 0 })).toMatchObject({
      outcome: "stored",
      rows: 3,
      unknown: { doors: 1, credentials: 1, someDoors: ["no-door"], someCredentials: ["no-card"] },
    });
  });

  it("that was wrong is taken back as a whole: the register is what it was, its source owns what it did, and the record says why", async () => {
    expect((await store("Right")).outcome).toBe("stored");
    const right = await own.services.snapshots.latest();
    await storeFacility(own.services, text("Wrong"), "somebody else", who, unwatched);
    const wrong = await own.services.snapshots.latest();
    const owns = async () => (await own.services.sources.brought()).map(({ source }) => source);
    expect(await owns()).toContain("somebody else");
    const reason = "It was the export of another site.";
    const back = (snapshot: number, why: string) => takeBackSnapshot(own.services, snapshot, why, who, unwatched);
    for (const [snapshot, why, code] of [
      [wrong?.id ?? 0, "short", "no-reason"],
      [right?.id ?? 0, reason, "not-the-latest"],
    ] as const)
      expect(await back(snapshot, why)).toMatchObject({ outcome: "refused", errors: [{ code }] });
    expect((await back(wrong?.id ?? 0, reason)).outcome).toBe("stored");
    const after = await own.services.snapshots.latest();
    expect([after?.hash, after?.id]).toEqual([right?.hash, (wrong?.id ?? 0) + 1]);
    expect(await owns()).not.toContain("somebody else");
    expect((await own.services.sources.brought()).find(({ source }) => source === "controller")?.snapshot).toBe(right?.id);
    const [entry] = await readRecord(
      own.services,
      { id: 1, signIn: "agnes", name: "Agnes", role: "auditor", cardholder: undefined },
      { what: "intake.taken-back" },
    );
    expect(JSON.stringify(entry)).toContain(reason);
  });

  it("of tables by a profile is kept with its source and known again", async () => {
    const file = path.join(own.folder, "badges.csv");
    writeFileSync(file, "No,Holder,Card\n1,Iris Almondfeld,4711\n2,Nora Mosstrand,4712\n");
    const tried = await trySource(own.services, { path: file, name: "badges.csv", source: "", profile: undefined }, unwatched);
    if ("error" in tried) throw new Error(tried.error);
    const profile: SourceProfile = {
      format: "nomade.profile/1",
      tables: [
        {
          name: "badges",
          headers: ["No", "Holder", "Card"],
          aside: ["No"],
          makes: [
            {
              table: "credentials",
              fields: { cardholder: { columns: ["Holder"] }, number: { columns: ["Card"] }, kind: { constant: "card" }, status: { constant: "active" } },
            },
          ],
        },
      ],
    };
    const taken = await storeFile(own.services, file, "badges.csv", "badges", who, {
      leaveOut: 0,
      readAs: { profile, owns: {}, asOf: "2026-12-01T08:00:00Z" },
    });
    expect(taken).toMatchObject({ outcome: "stored" });
    expect(await own.services.sources.profile("badges")).toEqual(profile);
    const snapshot = await own.services.snapshots.latest();
    const { facility } = await own.services.compiled(required(snapshot, "it was just stored"));
    expect(facility.credentials.map(({ number, cardholder }) => [number, cardholder])).toEqual([
      ["4711", "iris"],
      ["4712", "nora"],
    ]);
    expect(facility.asOf).toBe("2026-12-01T08:00:00Z");
  });

  it("of events by a profile keeps the source's own words, finds doors by name, and leaves out just so many rows as is said", async () => {
    const file = path.join(own.folder, "log.csv");
    writeFileSync(
      file,
      "Date,Time,Reader,Event,Card\n11/20/2026,10:15:02 PM,Cellar door,Access Granted,4711\n11/20/2026,10:16:00 PM,Cellar door,Access Denied,4712\n11/31/2026,1:00 AM,Cellar door,Access Granted,4711\n",
    );
    const profile: SourceProfile = {
      format: "nomade.profile/1",
      tables: [
        {
          name: "log",
          headers: ["Date", "Time", "Reader", "Event", "Card"],
          makes: [
            {
              table: "events",
              fields: {
                at: { columns: ["Date", "Time"], moment: { forms: ["mdy"], zone: "Europe/Vienna" } },
                door: { columns: ["Reader"] },
                result: { columns: ["Event"], values: { "Access Granted": "granted", "Access Denied": "refused" } },
                number: { columns: ["Card"] },
              },
            },
          ],
        },
      ],
    };
    const taken = (leaveOut: number) => storeFile(own.services, file, "log.csv", "log", who, { leaveOut, readAs: { profile, owns: {} } });
    expect(await taken(0)).toMatchObject({ outcome: "refused", errorCount: 1 });
    expect(await taken(1)).toMatchObject({ outcome: "stored", rows: 2 });
    const stored = [];
    for await (const event of own.services.events.between(Date.UTC(2026, 10, 20) / 1000, Date.UTC(2026, 10, 21) / 1000)) stored.push(event);
    // 22:15:02 in Vienna in November is 21:15:02 UTC.
    expect(stored.map(({ second, door, granted, reason, number }) => [second, door, granted, reason, number])).toEqual([
      [Date.UTC(2026, 10, 20, 21, 15, 2) / 1000, "cellar-door", true, "Access Granted", "4711"],
      [Date.UTC(2026, 10, 20, 21, 16, 0) / 1000, "cellar-door", false, "Access Denied", "4712"],
    ]);
  });
});
