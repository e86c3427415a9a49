import { isDefinition } from "@/core/certification/line-content";
import type { RoundScope } from "@/core/certification/round-terms";
import { usualTerms } from "@/core/certification/round-terms";
import { required, unreachable } from "@/core/kernel/invariant";
import { answerOrders } from "../certification/answer-orders";
import { closeRound } from "../certification/close-round";
import { passOnLine } from "../certification/decide-line";
import { narrowLine } from "../certification/narrow-line";
import { openRound } from "../certification/open-round";
import { askToClose, commentLine } from "../certification/run-round";
import { previewSending, sendOrders } from "../certification/send-orders";
import { signDocket } from "../certification/sign-docket";
import type { Account } from "../ports/accounts";
import { unwatched } from "../ports/progress";
import type { DocketLine } from "../ports/rounds";
import type { Services } from "../services";

/** The rounds of the demo, each over the snapshot that is the present one when it is added. */
export const demoRounds = ["summer", "september", "november", "definitions-september", "definitions-november"] as const;
export type DemoRound = (typeof demoRounds)[number];

const hour = 3_600_000;
const day = 24 * hour;
/** How long somebody looks at a line, with nothing against it and with a finding. */
const readingMs = { plain: 5_000, flagged: 24_000 };
/** Lines that are written down at once. */
const atOnce = 3;

/** One round as of then: its own clock, and those who act in it. */
class Acting {
  constructor(
    private readonly services: Services,
    private readonly from: number,
    private readonly accounts: readonly Account[],
  ) {}

  at(ms: number): Services {
    return { ...this.services, now: () => new Date(this.from + ms).toISOString() };
  }

  date(ms: number): string {
    return new Date(this.from + ms).toISOString().slice(0, 10);
  }

  who(signIn: string): Account {
    return required(
      this.accounts.find((account) => account.signIn === signIn),
      `the demo has ${signIn}`,
    );
  }

  certifier(account: number | undefined): Account | undefined {
    return this.accounts.find(({ id }) => id === account);
  }

  /** Decides lines one after the other, as somebody does who reads them; gives when they were done. */
  async decide(
    docket: number,
    lines: readonly DocketLine[],
    by: Account,
    begun: number,
    isWithdrawn: (line: DocketLine) => boolean = () => false,
    asks: (line: DocketLine) => string | undefined = () => undefined,
  ): Promise<number> {
    let ms = begun;
    for (let i = 0; i < lines.length; i += atOnce) {
      const some = lines.slice(i, i + atOnce);
      ms += some.reduce((sum, { flagged }) => sum + (flagged ? readingMs.flagged : readingMs.plain), 0);
      const decisions = some.map((line) => {
        const goes = isWithdrawn(line);
        const reason = goes
          ? (asks(line) ?? "No longer needed since the summer.")
          : line.flagged
            ? isDefinition(line.line)
              ? "Spoken about with the heads; it stays so for this season."
              : "Spoken about with them; the work of this season needs it."
            : "";
        return { line: line.id, decision: goes ? ("withdraw" as const) : ("keep" as const), reason };
      });
      const written = this.at(ms);
      await written.rounds.decide(docket, decisions, by, written.now());
    }
    return ms;
  }

  /** Closes a round in which not all have signed, as the reviewer asks and the administrator confirms. */
  async close(round: number, ms: number): Promise<void> {
    await askToClose(this.at(ms), this.who("reviewer"), round, "The others have no account yet; what they have was looked at with them in person.");
    await closeRound(this.at(ms + hour), this.who("administrator"), round);
  }
}

async function open(acting: Acting, name: string, scope: RoundScope, dueMs: number): Promise<number> {
  const services = acting.at(3 * hour);
  const snapshot = required(await services.snapshots.latest(), "the demo is loaded").id;
  return openRound(services, acting.who("reviewer"), { name, due: acting.date(dueMs), snapshot, terms: { ...usualTerms, scope } }, unwatched);
}

/** Whose access to which area was withdrawn in summer. */
const withdrawnInSummer: Readonly<Record<string, string>> = {
  "Wendel Ashgrove": "a-data",
  "Sigrid Ashgrove": "a-plant",
  "Corin Maplesund": "a-types",
  "Petra Maplesund": "a-data",
};

const onlySummer = ({ holderName, line: { subject } }: DocketLine): boolean => withdrawnInSummer[holderName] === subject.id;

/** The seed bank's sensitive places in June: four people lose what they had by exception, and the orders go out. */
async function summer(acting: Acting): Promise<void> {
  const round = await open(acting, "Summer review", { departments: ["d-seedbank"], sensitivity: 2 }, 14 * day);
  const services = acting.at(0);
  const certifier = acting.who("seedbank");
  const docket = required(
    (await services.rounds.dockets({ round })).find(({ account }) => account === certifier.id),
    "the seed bank has a docket",
  ).id;
  const done = await acting.decide(docket, await services.rounds.lines({ docket }), certifier, 4 * day, onlySummer);
  await signDocket(acting.at(done + 60_000), certifier, docket);
  const later = acting.at(6 * day);
  const preview = await previewSending(later, acting.who("administrator"), round);
  if (preview) await sendOrders(later, acting.who("administrator"), round, preview.snapshot);
  const left = (await services.rounds.dockets({ round })).some(({ signedAt }) => signedAt === undefined);
  if (left) await acting.close(round, 15 * day);
}

/** Everything in September: those who sign in to the demo kept what their people have, and signed; whoever never signed in has not. */
async function september(acting: Acting): Promise<void> {
  const round = await open(acting, "September review", {}, 14 * day);
  const services = acting.at(0);
  for (const [i, { id, account }] of (await services.rounds.dockets({ round })).entries()) {
    const certifier = acting.certifier(account);
    if (!certifier) continue;
    const done = await acting.decide(id, await services.rounds.lines({ docket: id }), certifier, 4 * day + i * hour);
    await signDocket(acting.at(done + 60_000), certifier, id);
  }
  await acting.close(round, 15 * day);
}

/** The sensitive places at present: one has signed, one narrows and passes on, one has a question, and the others are late. */
async function november(acting: Acting): Promise<void> {
  const round = await open(acting, "November review of sensitive places", { sensitivity: 2 }, 2 * day);
  const services = acting.at(0);
  const dockets = await services.rounds.dockets({ round });
  const docketOf = (signIn: string): number | undefined => dockets.find(({ account }) => account === acting.who(signIn).id)?.id;
  const lines = async (docket: number) => services.rounds.lines({ docket });
  const isGiven = ({ line }: DocketLine): boolean => line.subject.kind === "area";
  const seedbank = docketOf("seedbank");
  if (seedbank !== undefined) {
    const own = await lines(seedbank);
    const goes = own.find((line) => onlySummer(line) && line.holderName === "Petra Maplesund");
    const done = await acting.decide(seedbank, own, acting.who("seedbank"), 5 * hour, ({ id }) => id === goes?.id);
    await signDocket(acting.at(done + 60_000), acting.who("seedbank"), seedbank);
  }
  const facilities = docketOf("facilities");
  if (facilities !== undefined) {
    const [own, by] = [await lines(facilities), acting.who("facilities")];
    let narrowed: DocketLine | undefined;
    for (const line of own.filter(isGiven)) {
      const done = await narrowLine(acting.at(6 * hour), by, line.id, { kind: "hours", schedule: "office" }, "Goes in by day only.");
      if (done.outcome !== "decided") continue;
      narrowed = line;
      break;
    }
    const to = docketOf("computing");
    const passed =
      own.find((line) => isGiven(line) && line.line.subject.id === "a-data" && line.id !== narrowed?.id) ??
      own.find((line) => isGiven(line) && line.id !== narrowed?.id);
    if (to !== undefined && passed) await passOnLine(acting.at(6 * hour + 60_000), by, passed.id, to, "Computing decides who goes to the servers.");
    const rest = own.filter(({ id }) => id !== narrowed?.id && id !== passed?.id);
    await acting.decide(facilities, rest.slice(0, Math.ceil(rest.length / 2)), by, 7 * hour);
  }
  const genetics = docketOf("genetics");
  const asked = genetics === undefined ? undefined : (await lines(genetics)).find(isGiven);
  if (asked) {
    await commentLine(acting.at(8 * hour), acting.who("genetics"), asked.id, "Who asked for this? I would rather not decide it before I know.");
    await commentLine(
      acting.at(10 * hour),
      acting.who("reviewer"),
      asked.id,
      "It comes with the department. Take it away if it is not needed for the work there.",
    );
  }
}

/** What owners said in September that needs changing. */
const toChange: Readonly<Record<string, string>> = {
  "level Laboratories, cleaning": "Cleaning comes before and after the day: let it open then only.",
  "level Night rounds": "The rounds end at four now: let it open until 04:00 and no longer.",
};

/** The definitions, certified by the owners of the areas: in September all of them, in November one of them so far. */
async function definitions(acting: Acting, month: "September" | "November"): Promise<void> {
  const isOver = month === "September";
  const waiting = new Map(Object.entries(toChange));
  const round = await open(acting, `Levels, calendars and stock, ${month}`, { definitions: "only" }, isOver ? 14 * day : 21 * day);
  const services = acting.at(0);
  for (const [i, { id, account }] of (await services.rounds.dockets({ round })).entries()) {
    const certifier = acting.certifier(account);
    if (!certifier || (!isOver && i > 0)) continue;
    const lines = await services.rounds.lines({ docket: id });
    const asks = ({ line: { subject } }: DocketLine): string | undefined => (isOver ? waiting.get(`${subject.kind} ${subject.name}`) : undefined);
    const asked = new Map(lines.map((line) => [line.id, asks(line)]));
    // One of several owners says it.
    for (const {
      line: { subject },
    } of lines)
      waiting.delete(`${subject.kind} ${subject.name}`);
    const asksOf = (line: DocketLine): string | undefined => asked.get(line.id);
    const done = await acting.decide(id, lines, certifier, 4 * day + i * hour, (line) => asksOf(line) !== undefined, asksOf);
    await signDocket(acting.at(done + 60_000), certifier, id);
  }
  if (!isOver) return;
  await acting.close(round, 15 * day);
  const later = acting.at(16 * day);
  const preview = await previewSending(later, acting.who("administrator"), round);
  if (preview) await sendOrders(later, acting.who("administrator"), round, preview.snapshot);
  const first = (await services.orders.ofRound(round)).find(({ described }) => "task" in described && described.subject.id === "l-labs-clean");
  if (first) await answerOrders(acting.at(20 * day), acting.who("administrator"), round, `order,answer,note\n${first.id},done,Set to the cleaning schedule`);
}

/** Adds a round of the demo, written down as of then. */
export async function addDemoRound(services: Services, which: DemoRound): Promise<void> {
  const snapshot = required(await services.snapshots.latest(), "the demo is loaded");
  const acting = new Acting(services, Date.parse(snapshot.asOf), await services.accounts.all());
  switch (which) {
    case "summer":
      return summer(acting);
    case "september":
      return september(acting);
    case "november":
      return november(acting);
    case "definitions-september":
      return definitions(acting, "September");
    case "definitions-november":
      return definitions(acting, "November");
    default:
      return unreachable(which);
  }
}
