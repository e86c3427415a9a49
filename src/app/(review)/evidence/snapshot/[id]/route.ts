import { snapshotRoute } from "@/wiring/snapshot-route";

/** The frozen document of a snapshot, to the byte. */
export const GET = snapshotRoute((text) => ({ body: text, type: "application/json; charset=utf-8", ending: "json" }));
