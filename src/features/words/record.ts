import { capital } from "./numbers";

/** What people and programs do, as the record codes it, in words that go before what it was done to. */
const done = {
  "sign-in": "signed in,",
  "sign-in.refused": "was refused at sign-in,",
  "sign-out": "signed out,",
  "intake.stored": "took in",
  "intake.taken-back": "took back",
  "events.stored": "took in",
  "events.withdrawn": "took back",
  "rules.changed": "changed how rules judge,",
  "finding.waived": "made",
  "finding.waiver-asked": "asked for",
  "finding.waiver-confirmed": "confirmed",
  "finding.waiver-ended": "ended",
  "finding.noted": "wrote",
  "finding.assigned": "gave somebody a",
  "snapshot.exported": "saved the document of",
  "source.changed": "changed what belongs to",
  "draft.opened": "opened",
  "draft.changed": "changed",
  "draft.shared": "shared",
  "draft.dropped": "dropped",
  "draft.closed": "closed",
  "round.opened": "opened",
  "line.decided": "decided",
  "docket.signed": "signed",
  "docket.closed": "closed unsigned",
  "docket.corrected": "had corrected",
  "docket.given": "gave to another",
  "round.released": "let the dockets begin of",
  "round.closing-asked": "asked to close",
  "round.closed": "closed",
  "substitute.added": "let somebody stand in, in",
  "line.commented": "wrote about",
  "occasion.set": "set when a decision is asked for by",
  "orders.planned-anew": "planned anew",
  "orders.sent": "sent the orders of",
  "orders.checked": "checked the orders by",
  "order.answered": "took the answer to",
  "order.ticket": "gave a ticket to",
  "orders.exported": "saved the orders of",
  "lines.exported": "saved lines of",
  "findings.exported": "saved findings of",
  "answer.exported": "saved an answer from",
  "list.exported": "saved a list of",
  "calendar.exported": "saved the",
  "arrival.discarded": "discarded what had arrived of",
  "unit.kept": "said where to find",
  "unit.dropped": "forgot",
  "unit.lockdown-raised": "raised a lockdown at",
  "unit.lockdown-lifted": "lifted the lockdown at",
  "feed.token-made": "made a token for pushing people by",
  "feed.token-revoked": "revoked a token of",
  "source.rhythm": "said how often something is to come of",
  "source.mapped": "said how files are read of",
  "source.ownership": "said what belongs to",
  "source.orders-to": "said where orders go of",
  "record.stamped": "had stamped",
  "retention.set": "set for how long are kept",
  "retention.dropped": "let go, past its time,",
  "rules.proposed": "proposed to change how rules judge:",
  "rules.dropped": "dropped what was proposed for",
  "plan.added": "drew up a plan:",
  "plan.changed": "changed a plan:",
  "plan.dropped": "took out a plan:",
  "trial.added": "wrote down a trial:",
  "trial.dropped": "took out a trial:",
  "house-rule.added": "wrote down a rule of the house:",
  "house-rule.end-asked": "asked to end a rule of the house:",
  "house-rule.end-dropped": "let a rule of the house stand that was to end:",
  "house-rule.ended": "ended a rule of the house:",
  "account.reset": "reset the account",
  "account.password": "set the password of",
  "account.second-factor": "changed the second factor of",
  "role.second-factor": "said whether a second factor is asked of",
  "session.ended": "ended a session of",
  "round.exported": "made the evidence pack of",
  "account.put": "set up",
  "backup.made": "made the backup",
  "backup.restored": "restored the backup",
} as const;

/** What was done, in words; a code of another version as it is. */
export const doneWords = (what: string): string => (Object.hasOwn(done, what) ? done[what as keyof typeof done] : what);

/** The kinds of entries that there may be, to choose from. */
export const recordKinds = Object.entries(done).map(([value, words]) => ({ value, label: capital(words.replace(/,$/, "")) }));

/** Codes whose words have this text. */
export function kindsNamed(text: string): readonly string[] {
  const folded = text.trim().toLowerCase();
  return folded === "" ? [] : recordKinds.filter(({ label }) => label.toLowerCase().includes(folded)).map(({ value }) => value);
}

const longest = 60;

/** A value as it is told: hashes shortened, what is long cut. */
function valueWords(value: unknown): string {
  if (value === null || value === undefined || value === "") return "nothing";
  if (Array.isArray(value)) return value.length === 0 ? "none" : value.map(valueWords).join(", ");
  const text =
    typeof value === "object"
      ? Object.entries(value)
          .map(([key, one]) => `${fieldWords(key)} ${valueWords(one)}`)
          .join(", ")
      : typeof value === "string"
        ? value
        : JSON.stringify(value);
  const short = text.replace(/\b([0-9a-f]{8})[0-9a-f]{56}\b/g, "$1…");
  return short.length > longest ? `${short.slice(0, longest)} …` : short;
}

/** "ordersHash" as "orders hash" */
const fieldWords = (key: string): string =>
  key
    .replace(/([a-z])([A-Z])/g, "$1 $2")
    .replaceAll("_", " ")
    .toLowerCase();

interface ObjectValue {
  readonly list: string;
  readonly key: string;
  readonly value?: unknown;
}

const isObjectValue = (value: unknown): value is ObjectValue =>
  typeof value === "object" && value !== null && "list" in value && typeof value.list === "string" && "key" in value && typeof value.key === "string";

/** What an entry speaks of, by name: the objects of a draft by list and id, else the fields. */
function fieldsOf(value: unknown): Readonly<Record<string, unknown>> {
  const objects: readonly unknown[] = Array.isArray(value) ? value : [value];
  if (objects.length > 0 && objects.every(isObjectValue)) return Object.fromEntries(objects.map((one) => [`${fieldWords(one.list)} ${one.key}`, one.value]));
  return plainFields(value);
}

const plainFields = (value: unknown): Readonly<Record<string, unknown>> =>
  typeof value === "object" && value !== null && !Array.isArray(value)
    ? (value as Readonly<Record<string, unknown>>)
    : value === undefined || value === null
      ? {}
      : { value };

/** What an entry changed, a piece for each field: before and after where there was something before. */
export function changedWords(content: string | undefined): readonly string[] {
  if (content === undefined) return [];
  const { before, after } = JSON.parse(content) as { readonly before?: unknown; readonly after?: unknown };
  const [was, is] = [fieldsOf(before), fieldsOf(after)];
  // Ids stay as they are written.
  const named = (key: string) => (key.includes(" ") ? key : fieldWords(key));
  return [...new Set([...Object.keys(is), ...Object.keys(was)])].flatMap((key) => {
    const [old, now] = [was[key] ?? undefined, is[key] ?? undefined];
    if (JSON.stringify(old) === JSON.stringify(now)) return [];
    return [`${named(key)}: ${old === undefined || old === "" ? "" : `${valueWords(old)} → `}${valueWords(now)}`];
  });
}
