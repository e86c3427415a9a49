import { writeFileSync } from "node:fs";
import path from "node:path";
import { afterAll, beforeAll, describe, expect, it } from "@jest/globals";
import type { FacilityDocument } from "@/core/facility/document";
import { previewFacility } from "@/operations/intake/preview-contents";
import { unwatched } from "@/operations/ports/progress";
import { storeFacility } from "@/operations/intake/store-contents";
import { storeFile } from "@/operations/intake/intake-file";
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
});
