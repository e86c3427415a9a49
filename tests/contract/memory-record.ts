import { createHash } from "node:crypto";
import { chainStart, entryText, walkChain } from "@/core/evidence/chain";
import type { AskedEntries, RecordStore, StoredEntry } from "@/operations/ports/record";

const sha256 = (text: string): string => createHash("sha256").update(text).digest("hex");

const has = (text: string | undefined, part: string): boolean => text?.toLowerCase().includes(part.toLowerCase()) === true;

/** Whether an entry is asked for: the plain reading of what `AskedEntries` says. */
function isAsked({ number, at, who, what, on, content }: StoredEntry, asked: AskedEntries): boolean {
  const { before = Infinity, text = "", textAsWhat = [], on: things = [], from = "", until = "9999-12-31" } = asked;
  const date = at.slice(0, 10);
  return (
    number < before &&
    (asked.what === undefined || what === asked.what) &&
    (asked.who === undefined || who === asked.who) &&
    date >= from &&
    date <= until &&
    (text === "" || has(who, text) || has(on, text) || has(content, text) || textAsWhat.includes(what)) &&
    (things.length === 0 || things.some((thing) => on === thing || on.endsWith(` of ${thing}`))) &&
    (asked.finding === undefined || content?.includes(`"fingerprint":${JSON.stringify(asked.finding)}`) === true) &&
    (asked.object === undefined || content?.includes(`"list":${JSON.stringify(asked.object.list)},"key":${JSON.stringify(asked.object.id)}`) === true)
  );
}

/** The record without a database, for tests of what is written into it and read from it. */
export function memoryRecord(): RecordStore {
  const entries: StoredEntry[] = [];
  return {
    append: ({ signIn }, at, { what, on, before, after }) => {
      const content = before === undefined && after === undefined ? undefined : JSON.stringify({ before, after });
      const last = entries.at(-1);
      const entry = {
        number: entries.length + 1,
        at,
        who: signIn,
        what,
        on,
        valuesHash: content === undefined ? "" : sha256(content),
        previousHash: last?.hash ?? chainStart,
      };
      entries.push({ ...entry, hash: sha256(entryText(entry)), content });
      return Promise.resolve();
    },
    page: (asked, limit) =>
      Promise.resolve(
        entries
          .filter((entry) => isAsked(entry, asked))
          .reverse()
          .slice(0, limit),
      ),
    people: () => Promise.resolve([...new Set(entries.map(({ who }) => who))].sort()),
    since: (what, on) => {
      const first = entries.findIndex((entry) => entry.what === what && entry.on === on);
      return Promise.resolve(first < 0 ? [] : entries.slice(first));
    },
    verify: () => {
      const chain = walkChain(entries, sha256);
      return Promise.resolve(
        chain.whole ? { sound: true, count: chain.count, head: chain.head, withoutValues: [], notes: [] } : { sound: false, chain, why: "broken" },
      );
    },
  };
}
