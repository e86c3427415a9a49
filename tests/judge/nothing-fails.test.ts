import { expect, it } from "@jest/globals";
import fc from "fast-check";
import { candidateProposals, proved } from "@/core/drafting/levels/propose-levels";
import { tryHouseRule } from "@/operations/findings/house-rules";
import { judgedAlone } from "@/operations/findings/judging";
import { findRoutes } from "@/operations/inquiry/find-routes";
import { showForecast } from "@/operations/inquiry/show-forecast";
import { runTrials } from "@/operations/inquiry/trials";
import { findAll } from "@/core/findings/find";
import { countedPlaces } from "@/core/findings/counted-places";
import { listOfKind, registerKinds } from "@/core/register/kinds";
import { horizonOf } from "@/core/table/horizon";
import type { CivilDay } from "@/core/time/civil-day";
import { withdraw } from "@/core/certification/remedy";
import { withdrawableOf } from "@/core/certification/what-ends";
import { calendarFile } from "@/intake/formats/calendar/calendar-file";
import { shownWithdrawal } from "@/operations/certification/withdrawals";
import { usualTerms } from "@/core/certification/round-terms";
import { previewRound } from "@/operations/certification/preview-round";
import { listEvents } from "@/operations/events/list-events";
import { replayEvents } from "@/operations/events/replay-events";
import { formsOf } from "@/core/questions/answer-form";
import { sheetFolds } from "@/core/questions/question";
import { layOutSheet } from "@/operations/inquiry/lay-out-sheet";
import { answerInquiry } from "@/operations/inquiry/answer-inquiry";
import { exampleQuestions } from "@/operations/inquiry/example-questions";
import type { Inquiry } from "@/operations/inquiry/inquiry";
import { shutInquiry } from "@/operations/inquiry/shut-inquiry";
import { traceInquiry } from "@/operations/inquiry/trace-inquiry";
import type { Account } from "@/operations/ports/accounts";
import { unwatched } from "@/operations/ports/progress";
import { effectOnAccess } from "@/operations/register/effect-on-access";
import { listPage } from "@/operations/register/list-register";
import type { OpenRegister } from "@/operations/register/open-register";
import { showObject } from "@/operations/register/show-object";
import type { Services } from "@/operations/services";
import { anyEvents } from "~/tests/asked-events";
import { memoryEvents } from "~/tests/contract/memory-events";
import { arbitraryCase } from "./arbitrary-findings";
import type { JudgedCase } from "./arbitrary-findings";
import { judgedOfCase, told } from "./judged-case";

const withdrawnAtMost = 10_000;
const reviewer: Account = { id: 1, signIn: "tessa", name: "Tessa", role: "reviewer", cardholder: undefined };

/** The same some centuries earlier or later: after every 400 years the calendar repeats itself. Years that cannot be written stay. */
const shifted = (drawn: JudgedCase, years: number): JudgedCase =>
  JSON.parse(
    JSON.stringify(drawn).replace(/"(\d{4})-(?=\d\d-\d\d)/g, (written, year: string) => {
      const to = Number(year) + years;
      return to >= 1 && to <= 9999 ? `"${String(to).padStart(4, "0")}-` : written;
    }),
  ) as JudgedCase;

/** A drawn register as the present snapshot, with its findings and events, at a clock that may be far from its export. */
async function servicesOf(
  drawn: JudgedCase,
  now: string,
): Promise<{ readonly services: Services; readonly register: OpenRegister; readonly beside: OpenRegister }> {
  const { judged, compiled, documents } = judgedOfCase(drawn);
  const findings = findAll(judged).findings.map((finding, position) => ({ ...finding, position }));
  const all = [...documents, compiled];
  const snapshots = all.map(({ facility }, i) => ({
    id: i + 1,
    asOf: facility.asOf,
    hash: String(i),
    timeZone: facility.timeZone,
    takenAt: facility.asOf,
    leftOut: 0,
  }));
  const events = memoryEvents();
  async function* rows() {
    for (const event of drawn.events) {
      await Promise.resolve();
      yield told(event);
    }
  }
  await events.store({ name: "e", hash: "e", source: "" }, rows(), countedPlaces(compiled, drawn.settings), { signIn: "test" }, "", () => undefined);
  const services = {
    now: () => now,
    events,
    ruleSettings: { current: () => Promise.resolve({ version: 1, settings: drawn.settings, secondPersonFrom: 50 }) },
    houseRules: { inForce: () => Promise.resolve([]) },
    units: { all: () => Promise.resolve([]) },
    trials: {
      kept: () =>
        Promise.resolve([
          { id: 1, credential: "c1", door: "gone", at: "9999-12-31T23:59Z", lockdown: false, expected: "open", note: "", madeBy: "", madeAt: "" },
        ]),
    },
    findings: {
      page: () => Promise.resolve(findings),
      count: () => Promise.resolve(findings.length),
      risks: () => Promise.resolve(new Map<string, number>()),
    },
    snapshots: {
      list: () => Promise.resolve(snapshots),
      byId: (id: number) => Promise.resolve(snapshots[id - 1]),
      latest: () => Promise.resolve(snapshots.at(-1)),
    },
    compiled: ({ id }: { readonly id: number }) => Promise.resolve(all[id - 1]),
    layOut: () => Promise.resolve(),
    register: { versions: () => Promise.resolve([]) },
    accounts: { all: () => Promise.resolve([]) },
    rounds: { list: () => Promise.resolve([]), certifiedDefinitions: () => Promise.resolve([]) },
  } as unknown as Services;
  const at = (i: number): OpenRegister => ({ snapshot: snapshots[i], compiled: all[i] }) as unknown as OpenRegister;
  return { services, register: at(all.length - 1), beside: at(0) };
}

const whens: readonly Inquiry["when"][] = [
  { kind: "any" },
  { kind: "moment", at: { date: 20_513 as CivilDay, minuteOfDay: 150 } },
  { kind: "moment", at: { date: -719_162 as CivilDay, minuteOfDay: 0 } },
  { kind: "moment", at: { date: 2_932_896 as CivilDay, minuteOfDay: 1439 } },
];

/** Everything that pages ask of a register. */
async function askEverything(services: Services, register: OpenRegister, beside: OpenRegister): Promise<number> {
  const { facility } = register.compiled;
  let answers = 0;
  const holders = [
    ...facility.cardholders.map(({ id }) => ({ kind: "cardholder" as const, id })),
    ...facility.credentials.map(({ id }) => ({ kind: "credential" as const, id })),
  ];
  const places = [...facility.doors.map(({ id }) => ({ kind: "door" as const, id })), ...facility.areas.map(({ id }) => ({ kind: "area" as const, id }))];
  const several = [
    { kind: "everybody" as const },
    { kind: "type" as const, type: "contractor" as const },
    ...facility.groups.slice(0, 2).map(({ id }) => ({ kind: "group" as const, id })),
    ...facility.levels.slice(0, 1).map(({ id }) => ({ kind: "level" as const, id })),
    ...facility.bundles.slice(0, 1).map(({ id }) => ({ kind: "bundle" as const, id })),
  ];
  const rooms = [
    { kind: "anywhere" as const },
    { kind: "sensitivity" as const, from: 2 as const },
    ...facility.sites.slice(0, 1).map(({ id }) => ({ kind: "site" as const, id })),
    ...facility.doorGroups.slice(0, 1).map(({ id }) => ({ kind: "doorGroup" as const, id })),
    ...facility.areas.slice(0, 1).map(({ id }) => ({ kind: "area" as const, id })),
  ];
  for (const when of whens)
    for (const lockdown of [false, true]) {
      for (const who of holders) answers += (await answerInquiry(services, reviewer, register, { who, where: undefined, when, lockdown })).rows.length;
      for (const where of places) answers += (await answerInquiry(services, reviewer, register, { who: undefined, where, when, lockdown })).rows.length;
      // Of these a lockdown changes nothing but the table that is asked.
      for (const who of lockdown ? several.slice(0, 1) : several)
        for (const where of [undefined, ...rooms]) {
          const asked = { who, where, when, lockdown };
          for (const form of formsOf(asked))
            if (form === "people" || form === "doors") answers += (await answerInquiry(services, reviewer, register, { ...asked, form })).rows.length;
            else
              for (const fold of [undefined, ...sheetFolds])
                answers += (await layOutSheet(services, reviewer, register, { ...asked, form: "sheet", fold }, { row: 0, column: 0 })).rowCount;
        }
      for (const who of holders.slice(0, 3))
        for (const where of places.slice(0, 3)) {
          const asked = { who, where, when, lockdown };
          if (await traceInquiry(services, reviewer, register, asked)) answers++;
          shutInquiry(services, reviewer, register, asked);
        }
    }
  answers += (await exampleQuestions(services, reviewer, register)).length;
  for (const kind of registerKinds) {
    const page = listPage(
      register,
      { kind, of: undefined, columns: [], text: "1", filters: {}, sort: "name", group: undefined },
      { offset: 0, limit: 50, withChoices: true },
    );
    answers += page.total;
  }
  for (const kind of registerKinds)
    for (const { id } of facility[listOfKind[kind]]) if (await showObject(services, reviewer, register, { kind, id })) answers++;
  const preview = await previewRound(services, reviewer, usualTerms, unwatched);
  answers += preview?.lines ?? 0;
  for (const by of [undefined, "door", "person", "card", "hour"] as const) {
    const page = await listEvents(services, reviewer, register, { ...anyEvents, by });
    answers += page.events.length + (page.groups?.length ?? 0);
  }
  for (const { id } of facility.calendars) if (calendarFile(JSON.stringify(facility), id) !== undefined) answers++;
  for (const finding of await services.findings.page(1, {}, "", withdrawnAtMost)) {
    const what = withdrawableOf(finding);
    if (what) answers += shownWithdrawal(register.compiled, withdraw(horizonOf(register.compiled), what)).changes.length;
  }
  const replayed = await replayEvents(services, reviewer, { from: 20_000 as CivilDay, to: 20_900 as CivilDay }, unwatched);
  answers += replayed?.agree ?? 0;
  for (const when of whens.slice(1))
    for (const who of [undefined, holders[0]])
      for (const where of [undefined, rooms[1], places[0]]) {
        const out = facility.doors.at(-1)?.id;
        if (await findRoutes(services, reviewer, register, { who, where, when, lockdown: false }, out)) answers++;
      }
  answers += (await showForecast(services, reviewer, register, 330)).byDate.length;
  for (const must of ["none", "only", "not-both", "at-least", "at-most"] as const)
    for (const query of ["where=sensitivity:1&when=nights", "who=type:contractor", "where=area:a1&when=public+holidays"]) {
      const tried = await tryHouseRule(services, reviewer, register, { name: "n", must, query, other: "area:a2", count: 2 });
      if (tried.outcome === "tried") answers += tried.broken;
    }
  answers += (await runTrials(services, reviewer, register)).length;
  const horizon = horizonOf(register.compiled);
  for (const step of candidateProposals(await judgedAlone(services, register.compiled)).slice(0, 4)) if (proved(horizon, step)) answers++;
  effectOnAccess(horizon, horizon.beside(beside.compiled));
  return answers;
}

it("nothing that pages ask of a register fails, whatever is in it and whatever the clock says", async () => {
  let answers = 0;
  await fc.assert(
    fc.asyncProperty(
      arbitraryCase,
      fc.constantFrom(0, 400, 7600, -2000, -1600),
      fc.constantFrom("2026-03-02T06:00:00Z", "0001-01-01T00:00:00Z", "9999-12-31T23:59:00Z", "2030-01-01T00:00:00Z"),
      async (drawn, years, now) => {
        const { services, register, beside } = await servicesOf(shifted(drawn, years), now);
        answers += await askEverything(services, register, beside);
      },
    ),
    { numRuns: 8 },
  );
  expect(answers).toBeGreaterThan(100);
});
