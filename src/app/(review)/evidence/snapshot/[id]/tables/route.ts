import { bundleZip } from "@/wiring/bundle-zip";
import { snapshotRoute } from "@/wiring/snapshot-route";

/** A snapshot as a ZIP of CSV tables; taking it in again gives the same hash. */
export const GET = snapshotRoute((text, { takenAt }) => ({ body: new Uint8Array(bundleZip(text, takenAt)), type: "application/zip", ending: "zip" }));
