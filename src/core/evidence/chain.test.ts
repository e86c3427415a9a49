import { createHash } from "node:crypto";
import { describe, expect, it } from "@jest/globals";
import type { RecordEntry } from "./chain";
import { chainStart, entryText, walkChain } from "./chain";

const digest = (text: string): string => createHash("sha256").update(text).digest("hex");

function chainOf(count: number): RecordEntry[] {
  const entries: RecordEntry[] = [];
  for (let number = 1; number <= count; number++) {
    const entry = {
      number,
      at: "2026-03-01T00:00:00.000Z",
      who: "tessa",
      what: "sign-in",
      on: `account ${number}`,
      valuesHash: "",
      previousHash: entries[number - 2]?.hash ?? chainStart,
    };
    entries.push({ ...entry, hash: digest(entryText(entry)) });
  }
  return entries;
}
const changed = (entries: readonly RecordEntry[], at: number, change: Partial<RecordEntry>): RecordEntry[] =>
  entries.map((entry, i) => (i === at ? { ...entry, ...change } : entry));

describe("the chain of the record", () => {
  it("rests on SHA-256 as FIPS 180-4 has it for “abc” (from memory)", () => {
    expect(digest("abc")).toBe("ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad");
  });

  it("is whole as it was written, the empty one too", () => {
    const entries = chainOf(5);
    expect(walkChain(entries, digest)).toEqual({ whole: true, count: 5, head: entries[4]?.hash });
    expect(walkChain([], digest)).toEqual({ whole: true, count: 0, head: chainStart });
  });

  it("names the first entry that was altered, left out, or put in", () => {
    const entries = chainOf(5);
    expect(walkChain(changed(entries, 2, { who: "somebody else" }), digest)).toMatchObject({ whole: false, number: 3, why: "hash" });
    expect(
      walkChain(
        entries.filter((_, i) => i !== 2),
        digest,
      ),
    ).toMatchObject({ whole: false, number: 3, why: "number" });
    const forged = chainOf(1)[0] as RecordEntry;
    expect(walkChain([...entries.slice(0, 2), { ...forged, number: 3 }, ...entries.slice(2)], digest)).toMatchObject({
      whole: false,
      number: 3,
      why: "previous-hash",
    });
  });

  it("names an entry that was altered together with its own hash at the one after it", () => {
    const entries = chainOf(5);
    const { hash: _hash, ...entry } = { ...(entries[2] as RecordEntry), who: "somebody else" };
    expect(walkChain(changed(entries, 2, { ...entry, hash: digest(entryText(entry)) }), digest)).toMatchObject({
      whole: false,
      number: 4,
      why: "previous-hash",
    });
  });
});
