import { afterAll, beforeAll, expect, it } from "@jest/globals";
import { cardKey } from "@/core/events/told-card";
import { changeOfQuestion, dropQuestion, keepQuestion, listKeptQuestions, mostKept, watchQuestion } from "@/operations/inquiry/kept-questions";
import { storeFacility } from "@/operations/intake/store-contents";
import type { Account } from "@/operations/ports/accounts";
import { unwatched } from "@/operations/ports/progress";
import { onUsedHorizon } from "@/operations/register/later-uses";
import { onRegister } from "@/operations/register/on-register";
import { answerInquiry } from "@/operations/inquiry/answer-inquiry";
import { orchard } from "../browser/orchard";
import { ownDatabase } from "./own-database";
import type { OwnDatabase } from "./own-database";

const { grants: orchardGrants = [], credentials: cards = [], cardholders: people = [] } = orchard;

let own: OwnDatabase;
let services: OwnDatabase["services"];
let [wilma, agnes] = [] as unknown as [Account, Account];

const store = (document: object) => storeFacility(services, JSON.stringify(document), "controller", { signIn: "test" }, unwatched);
const keep = (by: Account, query: string) => onRegister(keepQuestion)(services, by, undefined, query);
const kept = async (by: Account) => (await onRegister(listKeptQuestions)(services, by, undefined)) ?? [];

beforeAll(async () => {
  own = await ownDatabase("nomade_kept_questions");
  ({ services } = own);
  [wilma, agnes] = [await own.account("wilma", "reviewer"), await own.account("agnes", "auditor")];
  await store(orchard);
});
afterAll(() => own.close());

it("is kept once, in the words in which it was asked, by whoever asks it; what is not understood is not", async () => {
  expect(await keep(wilma, "where=door%3Acellar-door&when=nights")).toBe("kept");
  expect(await keep(wilma, "where=door%3Acellar-door&when=nights")).toBe("kept-already");
  for (const query of ["where=robot%3A7", "who=group%3Anowhere", "when=sometimes", `who=everybody&when=${"x".repeat(5000)}`, "who=everybody&who2=x"])
    expect([query.slice(0, 40), await keep(wilma, query)]).toEqual([query.slice(0, 40), "not-understood"]);
  expect(await kept(agnes)).toEqual([]);
  const [question] = await kept(wilma);
  expect([question?.query, question?.watched, question?.read?.names.where]).toEqual(["where=door%3Acellar-door&when=nights", false, "Cellar door"]);
  // Nobody watches, drops or is told of somebody else's.
  const id = question?.id ?? -1;
  expect([await watchQuestion(services, agnes, id, true), await dropQuestion(services, agnes, id), await changeOfQuestion(services, agnes, id)]).toEqual([
    false,
    false,
    undefined,
  ]);
  expect(await changeOfQuestion(services, wilma, id)).toEqual({ outcome: "nothing-earlier" });
});

it("says after an intake who came, who went, and what stands for more", async () => {
  expect(await keep(wilma, "who=group%3Apress")).toBe("kept");
  const grants = [
    ...orchardGrants.filter(({ id }) => id !== "watch-cellar"),
    { id: "dagmar-cellar", to: { cardholder: "dagmar" }, open: { door: "cellar-door" }, schedule: "always" },
  ];
  const credentials = [...cards, { id: "c-dagmar", cardholder: "dagmar", kind: "card", status: "active", number: "40105" }];
  await store({ ...orchard, asOf: "2026-03-02T06:00:00Z", grants, credentials });
  const [ofPress, ofCellar] = await kept(wilma);
  expect(await changeOfQuestion(services, wilma, ofCellar?.id ?? -1)).toEqual({
    outcome: "compared",
    before: 1,
    came: { count: 1, names: ["Dagmar Holmwold"] },
    went: { count: 1, names: ["Nora Mosstrand"] },
    otherwise: 0,
  });
  // Of the press house Nora opens the cellar no more: the same doors, by fewer.
  expect(await changeOfQuestion(services, wilma, ofPress?.id ?? -1)).toMatchObject({ came: { count: 0 }, went: { count: 0 }, otherwise: 1 });
  expect([await watchQuestion(services, wilma, ofPress?.id ?? -1, true), (await kept(wilma))[0]?.watched]).toEqual([true, true]);
  expect([await dropQuestion(services, wilma, ofPress?.id ?? -1), (await kept(wilma)).length]).toEqual([true, 1]);
});

it("stays listed where the register does not hold any more whom it is about; only so many are kept", async () => {
  expect(await keep(wilma, "who=cardholder%3Aleif")).toBe("kept");
  await store({
    ...orchard,
    asOf: "2026-03-03T06:00:00Z",
    cardholders: people.filter(({ id }) => id !== "leif"),
    credentials: cards.filter(({ id }) => id !== "c-leif"),
  });
  const [ofLeif] = await kept(wilma);
  expect([ofLeif?.query, ofLeif?.read]).toEqual(["who=cardholder%3Aleif", undefined]);
  expect(await changeOfQuestion(services, wilma, ofLeif?.id ?? -1)).toEqual({ outcome: "not-in-both" });
  for (let i = (await kept(wilma)).length; i < mostKept; i++) await services.keptQuestions.keep(wilma.id, `who=everybody&when=${i}`, services.now());
  expect(await keep(wilma, "who=everybody")).toBe("full");
});

it("is answered with the uses since the export where these keep a card from ending", async () => {
  const credentials = cards.map((one) => (one.id === "c-iris" ? { ...one, lastUse: "2026-02-20T09:00:00Z", expiry: { after: "last-use", days: 10 } } : one));
  await store({ ...orchard, asOf: "2026-03-04T06:00:00Z", credentials });
  const ask = onUsedHorizon(answerInquiry);
  const asked = { who: { kind: "cardholder", id: "iris" }, where: { kind: "door", id: "cellar-door" }, when: { kind: "any" }, lockdown: false } as const;
  // Ten days after 20 February the card is over: the export of 4 March knows of no later use.
  expect(await ask(services, wilma, undefined, asked)).toMatchObject({ total: 0, uses: { prolonged: 0 } });
  const at = Date.parse("2026-03-05T08:00:00Z") / 1000;
  const uses = new Map([[cardKey({ credential: "c-iris", number: undefined, facilityCode: undefined }), at]]);
  const told = { ...services, events: { ...services.events, lastUses: () => Promise.resolve(uses) } };
  expect(await ask(told, wilma, undefined, asked)).toMatchObject({ total: 1, uses: { prolonged: 1, endsUnused: true } });
});
