import type { ListKey } from "@/core/facility/document";
import type { Value } from "./editor-form";

const slug = (text: string): string =>
  text
    .normalize("NFD")
    .replace(/\p{M}/gu, "")
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, "-")
    .replace(/^-|-$/g, "");

/** An id that lies near: from the name, or from the number of a card. */
export function nearId(list: ListKey, value: Value): string {
  // A kind alone is no name: every card without a number would get it.
  if (list === "credentials" && value.number === undefined && value.printedNumber === undefined) return "";
  if (list === "credentials")
    return [value.kind, value.facilityCode, value.number ?? value.printedNumber].filter((part) => typeof part === "string" && part !== "").join("-");
  if (list === "grants") {
    const side = (key: string): string => Object.values((value[key] ?? {}) as Record<string, string>)[0] ?? "";
    return slug(`${value.effect === "block" ? "block" : "grant"} ${side("to")} ${side("open")}`);
  }
  return slug(typeof value.name === "string" ? value.name : "");
}
