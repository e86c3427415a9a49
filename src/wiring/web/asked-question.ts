import type { PastPart } from "@/core/questions/past-parts";
import type { AddressParts } from "@/core/questions/question-address";
import type { Account } from "@/operations/ports/accounts";
import { registerOf } from "@/operations/inquiry/inquiry";
import type { Inquiry, QuestionNames } from "@/operations/inquiry/inquiry";
import { asking, nomade } from "../nomade";
import { refuse } from "./route";

export { registerOf };

/** The question that an address holds, read in the register that it asks; undefined where there is none, or no such snapshot or draft. */
export async function readAsked(account: Account, parts: AddressParts): ReturnType<typeof asking.readInquiry> {
  const presently = await asking.readInquiry(account, undefined, parts);
  const wanted = presently?.ok ? registerOf(presently.value.inquiry) : undefined;
  return wanted === undefined ? presently : asking.readInquiry(account, wanted, parts);
}

type SnapshotChoice = Awaited<ReturnType<typeof nomade.snapshotChoices>>[number];

/** A question that one register answers, or why none can. */
export type AskedOfOne =
  | { readonly outcome: "no-register" | "not-there" }
  | {
      readonly outcome: "not-understood";
      readonly parts: Extract<NonNullable<Awaited<ReturnType<typeof readAsked>>>, { ok: false }>["error"];
      readonly latest: number;
    }
  | { readonly outcome: "several"; readonly asked: { readonly inquiry: Inquiry; readonly names: QuestionNames }; readonly count: number }
  | {
      readonly outcome: "asked";
      readonly asked: { readonly inquiry: Inquiry; readonly names: QuestionNames; readonly stood: number | undefined };
      readonly register: ReturnType<typeof registerOf>;
      /** The snapshot that answers, and all that there are. */
      readonly told: SnapshotChoice;
      readonly snapshots: readonly SnapshotChoice[];
    };

/** The question that an address holds, for a page of which one register tells: a past time is asked of the snapshot that stood in it. */
export async function readAskedOfOne(account: Account, parts: AddressParts): Promise<AskedOfOne> {
  const [snapshots, read] = await Promise.all([nomade.snapshotChoices(account), readAsked(account, parts)]);
  const [latest] = snapshots;
  if (!latest) return { outcome: "no-register" };
  if (!read) return { outcome: "not-there" };
  if (!read.ok) return { outcome: "not-understood", parts: read.error, latest: latest.id };
  const { inquiry, names, isThere } = read.value;
  if (!isThere) return { outcome: "not-there" };
  const times = await asking.timesOfInquiry(account, undefined, inquiry);
  const past = times?.outcome === "past" ? times.parts : [];
  const count = times?.outcome === "too-many" ? times.count : past.length;
  if (count > 1) return { outcome: "several", asked: { inquiry, names }, count };
  const stood = past[0]?.snapshot;
  return {
    outcome: "asked",
    asked: { inquiry, names, stood },
    register: registerOf(stood === undefined ? inquiry : { snapshot: stood }),
    told: snapshots.find(({ id }) => id === (inquiry.snapshot ?? stood)) ?? latest,
    snapshots,
  };
}

interface TimedQuestion {
  readonly inquiry: Inquiry;
  readonly names: QuestionNames;
  /** The parts of a past time that lies over several snapshots; empty where one register answers. */
  readonly parts: readonly PastPart[];
}

/**
 * The question that an address holds, with the snapshots that answer it: a past time is asked of those that stood in it. What is not understood, not there,
 * or of too many snapshots is refused by name.
 */
export async function readTimed(account: Account, parts: AddressParts): Promise<Response | TimedQuestion> {
  const read = await readAsked(account, parts);
  if (read && !read.ok) return refuse(`Not understood: ${read.error.map(({ key, text }) => `${key}=${text}`).join(", ")}.`, 400);
  if (!read?.value.isThere) return refuse("The register does not hold who or where.", 404);
  const { inquiry, names } = read.value;
  const times = await asking.timesOfInquiry(account, undefined, inquiry);
  if (times?.outcome === "too-many") return refuse(`This time lies over ${times.count} snapshots: name one of them, such as snapshot=2.`, 400);
  if (times?.outcome !== "past") return { inquiry, names, parts: [] };
  const [only, ...others] = times.parts;
  return others.length > 0 ? { inquiry, names, parts: times.parts } : { inquiry: { ...inquiry, snapshot: only?.snapshot }, names, parts: [] };
}

/** The same as one register can answer it: a time that lies over several is refused. */
export async function readAnswerable(account: Account, parts: AddressParts): Promise<Response | Pick<TimedQuestion, "inquiry" | "names">> {
  const timed = await readTimed(account, parts);
  return timed instanceof Response || timed.parts.length === 0
    ? timed
    : refuse("This time lies over several snapshots: name one of them, such as snapshot=2.", 400);
}
