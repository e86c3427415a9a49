import { nomade } from "@/wiring/nomade";
import { snapshotRoute } from "@/wiring/snapshot-route";

/** The frozen document of a snapshot, to the byte. */
export const GET = snapshotRoute(nomade.frozenSnapshot, "application/json; charset=utf-8", "json");
