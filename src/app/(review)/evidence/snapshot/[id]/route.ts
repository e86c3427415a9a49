import { nomade } from "@/wiring/nomade";
import { snapshotRoute } from "@/wiring/web/snapshot-route";

/** The frozen document of a snapshot, to the byte. */
export const GET = snapshotRoute(nomade.exportDocument, "application/json; charset=utf-8", "json");
