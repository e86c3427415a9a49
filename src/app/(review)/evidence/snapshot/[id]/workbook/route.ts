import { longWork } from "@/wiring/nomade";
import { snapshotRoute } from "@/wiring/web/snapshot-route";

/** A snapshot as a workbook, a sheet a table; taking it in again gives the same hash. */
export const GET = snapshotRoute(
  (account, id) => longWork().exportWorkbook(account, id),
  "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
  "xlsx",
);
