import { calendarFile } from "@/intake/formats/calendar/calendar-file";
import { bundleWorkbook, bundleZip } from "@/intake/formats/tables/bundle-zip";
import type { Account } from "../ports/accounts";
import type { Snapshot } from "../ports/snapshots";
import { demand } from "../rights";
import type { Services } from "../services";

/** What of a snapshot leaves the register stands in the record; undefined where there is no such snapshot, or nothing of that kind in it. */
async function exported<T>(services: Services, account: Account, id: number, write: (snapshot: Snapshot) => Promise<T>): Promise<T | undefined> {
  demand(account, "read-whole");
  const snapshot = await services.snapshots.byId(id);
  if (!snapshot) return undefined;
  const written = await write(snapshot);
  if (written !== undefined) await services.record.append(account, services.now(), { what: "snapshot.exported", on: `snapshot ${id}` });
  return written;
}

/** The frozen document of a snapshot, to the byte. */
export const exportDocument = (services: Services, account: Account, id: number): Promise<string | undefined> =>
  exported(services, account, id, () => services.snapshots.frozen(id));

/** A snapshot as a ZIP of CSV tables. */
export const exportTables = (services: Services, account: Account, id: number): Promise<Uint8Array | undefined> =>
  exported(services, account, id, async ({ takenAt }) => bundleZip(await services.snapshots.frozen(id), takenAt));

/** A snapshot as a workbook. Throws a `BundleError` for a text that no cell holds. */
export const exportWorkbook = (services: Services, account: Account, id: number): Promise<Uint8Array | undefined> =>
  exported(services, account, id, async () => bundleWorkbook(await services.snapshots.frozen(id)));

/** A calendar of a snapshot, of the latest where none is named, as iCalendar. */
export async function exportCalendar(services: Services, account: Account, id: number | undefined, calendar: string): Promise<string | undefined> {
  demand(account, "read-whole");
  const snapshot = id ?? (await services.snapshots.latest())?.id;
  return snapshot === undefined
    ? undefined
    : exported(services, account, snapshot, async () => calendarFile(await services.snapshots.frozen(snapshot), calendar));
}
