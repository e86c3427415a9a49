import { nomade } from "@/wiring/nomade";
import { snapshotRoute } from "@/wiring/snapshot-route";

/** A snapshot as a ZIP of CSV tables; taking it in again gives the same hash. */
export const GET = snapshotRoute(nomade.snapshotTables, "application/zip", "zip");
