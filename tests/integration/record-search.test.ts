import { afterAll, beforeAll, expect, it } from "@jest/globals";
import { subjectHref } from "@/features/evidence/record-address";
import { kindsNamed } from "@/features/words/record";
import type { AskedEntries } from "@/operations/ports/record";
import { ownDatabase } from "./own-database";
import type { OwnDatabase } from "./own-database";

let own: OwnDatabase;

/** Entries as the program writes them, each a minute after the one before. */
const written: readonly (readonly [who: string, what: string, on: string, after?: object])[] = [
  ["tessa", "round.opened", "round 3", { name: "Spring 100% of it" }],
  ["tessa", "round.opened", "round 33", { name: "Other" }],
  ["dagmar", "line.decided", "line 5 of docket 2", { decision: "keep" }],
  ["dagmar", "line.decided", "line 6 of docket 22", { decision: "keep" }],
  ["dagmar", "docket.signed", "docket 2", { hash: "x" }],
  ["Tessa_", "order.answered", "order 7 of round 3", { said: "done" }],
  ["tessa", "finding.waived", "waiver 1", { fingerprint: '["unused","cardholder","o\'neil %"]' }],
  ["tessa", "draft.changed", "draft 4"],
  ["wilma", "account.put", "dagmar", { role: "manager" }],
  ["wilma", "sign-in", "account 9"],
];

beforeAll(async () => {
  own = await ownDatabase("nomade_record_search");
  for (const [i, [signIn, what, on, after]] of written.entries()) {
    const objects = [{ list: "cardholders", key: 'a"b\\c', value: { name: "A" } }];
    await own.services.record.append({ signIn }, `2026-03-${String(i + 1).padStart(2, "0")}T12:00:00.000Z`, {
      what,
      on,
      ...(what === "draft.changed" ? { before: objects, after: objects } : after && { after }),
    });
  }
});
afterAll(() => own.close());

const found = async (asked: AskedEntries) => (await own.services.record.page(asked, 50)).map(({ number }) => number).reverse();

it("entries are found by words, by who, by dates, and by what they are on, each letter standing for itself", async () => {
  expect(await found({})).toEqual(written.map((_, i) => i + 1));
  // "signed" is a word for a kind of entry, not in any of them.
  expect(await found({ text: "signed" })).toEqual([]);
  expect(await found({ text: "signed", textAsWhat: kindsNamed("signed") })).toEqual([5, 10]);
  expect(await found({ text: "100%" })).toEqual([1]);
  expect(await found({ text: "SPRING" })).toEqual([1]);
  expect(await found({ who: "tessa" })).toEqual([1, 2, 7, 8]);
  expect(await found({ who: "Tessa_" })).toEqual([6]);
  expect(await found({ from: "2026-03-03", until: "2026-03-05" })).toEqual([3, 4, 5]);
  expect(await found({ until: "2026-03-01" })).toEqual([1]);
  expect(await found({ from: "2026-03-10" })).toEqual([10]);
  expect(await found({ what: "line.decided", who: "dagmar", from: "2026-03-04" })).toEqual([4]);
});

it("from an object to its entries: of a round with its orders, of a docket with its lines, and never those of another number", async () => {
  expect(await found({ on: ["round 3"] })).toEqual([1, 6]);
  expect(await found({ on: ["docket 2"] })).toEqual([3, 5]);
  expect(await found({ on: ["account 9", "dagmar"] })).toEqual([9, 10]);
  expect(await found({ on: ["round _"] })).toEqual([]);
  expect(await found({ finding: '["unused","cardholder","o\'neil %"]' })).toEqual([7]);
  expect(await found({ finding: '["unused","cardholder","o%"]' })).toEqual([]);
  expect(await found({ object: { list: "cardholders", id: 'a"b\\c' } })).toEqual([8]);
  expect(await found({ object: { list: "cardholders", id: "a%" } })).toEqual([]);
});

it("from an entry to its object, where that has a page for whoever looks", async () => {
  const entries = await own.services.record.page({}, 50);
  const hrefs = new Map(entries.map((entry) => [entry.on, [subjectHref(entry, true), subjectHref(entry, false)]]));
  const both = (href: string) => [href, href];
  expect(Object.fromEntries(hrefs)).toEqual({
    "round 3": both("/certification/3"),
    "round 33": both("/certification/33"),
    "line 5 of docket 2": both("/docket/2"),
    "line 6 of docket 22": both("/docket/22"),
    "docket 2": both("/docket/2"),
    "order 7 of round 3": both("/certification/3"),
    "waiver 1": both(`/findings?finding=${encodeURIComponent('["unused","cardholder","o\'neil %"]').replaceAll("%20", "+").replaceAll("'", "%27")}`),
    "draft 4": both("/register/drafts/4"),
    dagmar: ["/accounts", undefined],
    "account 9": ["/accounts", undefined],
  });
});
