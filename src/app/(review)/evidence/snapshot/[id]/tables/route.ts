import { longWork } from "@/wiring/nomade";
import { snapshotRoute } from "@/wiring/web/snapshot-route";

/** A snapshot as a ZIP of CSV tables; taking it in again gives the same hash. */
export const GET = snapshotRoute((account, id) => longWork().exportTables(account, id), "application/zip", "zip");
