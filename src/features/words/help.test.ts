import { readdirSync } from "node:fs";
import path from "node:path";
import { describe, expect, it } from "@jest/globals";
import { glossary, helpOf } from "./help";

/** Addresses of all pages of the reviewer's side, with a number or an id in the place of what varies. */
function pagesBelow(folder: string, address: string): string[] {
  return readdirSync(folder, { withFileTypes: true }).flatMap((entry) => {
    if (entry.isDirectory()) return pagesBelow(path.join(folder, entry.name), `${address}/${entry.name.startsWith("[") ? "1" : entry.name}`);
    return entry.name === "page.tsx" ? [address] : [];
  });
}

describe("help", () => {
  it("says of each page of the reviewer's side what it shows", () => {
    const pages = pagesBelow(path.join(process.cwd(), "src/app/(review)"), "");
    expect(pages.length).toBeGreaterThan(25);
    // The stand-in's outbox is no view of the product.
    expect(pages.filter((page) => page !== "/outbox" && helpOf(page).title === "Nomade")).toEqual([]);
  });

  it("tells views apart that lie below each other", () => {
    const titles = [
      "/register",
      "/register/door/a",
      "/register/schedule/night",
      "/register/events",
      "/register/events/replay",
      "/findings",
      "/findings/rules",
    ].map((address) => helpOf(address).title);
    expect(new Set(titles).size).toBe(titles.length);
  });

  it("has each word once, in the order of the alphabet", () => {
    const words = glossary.map(([word]) => word);
    expect(words).toEqual([...new Set(words)].sort((a, b) => a.localeCompare(b, "en")));
  });
});
