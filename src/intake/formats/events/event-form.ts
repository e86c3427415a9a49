import type { EventForm } from "@/intake/formats/events/read-events";

/** The form of a file of events, by its name; undefined where it is none. */
export const eventForm = (name: string): EventForm | undefined => (/\.csv$/i.test(name) ? "csv" : /\.(jsonl|ndjson)$/i.test(name) ? "jsonl" : undefined);
