import { compileFacility } from "@/core/compile/compile-facility";
import { checkReferences } from "@/core/facility/references";
import { listKeys } from "@/core/facility/document";
import type { ListKey } from "@/core/facility/document";
import type { Facility } from "@/core/facility/facility";
import type { DataIssue } from "@/core/facility/issue";
import { notesOn } from "@/core/facility/notes";
import { changedFindings } from "@/core/findings/changed-findings";
import { findAll } from "@/core/findings/find";
import type { Finding } from "@/core/findings/finding";
import { issueWords } from "@/intake/formats/facility/issue-words";
import type { NameOf } from "@/core/drafting/field-words";
import type { OpenDraft } from "./draft-register";
import { labelOf, namesIn, openDraft, withChanges } from "./draft-register";
import type { DraftEffect, DraftIssue, EffectFinding } from "./draft-outcomes";
import { effectOnAccess } from "../effect-on-access";
import { judged, judgedHorizon, judgingOf } from "../../findings/judging";
import { rulesOfUse } from "@/core/findings/finding";
import type { Account } from "../../ports/accounts";
import type { Report } from "../../ports/progress";
import type { Services } from "../../services";
import type { Plain } from "@/core/facility/object-key";

const shown = 60;
const place = /^([A-Za-z]+)\[(\d+)\]/;

function draftIssue(facility: Facility, issue: DataIssue, name: NameOf): DraftIssue {
  const found = place.exec(issue.path);
  const list = listKeys.find((key) => key === found?.[1]);
  const object = list && (facility[list][Number(found?.[2])] as unknown as Plain | undefined);
  return {
    list,
    key: typeof object?.id === "string" ? object.id : "",
    name: list && object ? labelOf(list, object, name) : issue.path,
    message: issueWords(issue),
  };
}

/** What does not hold in the register as the draft would have it; empty where all of it does. */
export function errorsOf(open: OpenDraft): DraftIssue[] {
  const { facility } = withChanges(open);
  const name = namesIn(open);
  return checkReferences(facility as unknown as Record<string, unknown>)
    .filter(({ level }) => level === "error")
    .map((issue) => draftIssue(facility, issue, name));
}

const noteKey = ({ code, facts }: DataIssue): string => `${code} ${JSON.stringify(facts)}`;

/** Works out what a draft does; cost: one compilation, one comparison, and the findings of the register as it would be. */
export async function effectOfDraft(services: Services, account: Account, id: number, report: Report): Promise<DraftEffect | undefined> {
  report({ step: "reading", done: 0, of: 1 });
  const open = await openDraft(services, account, id);
  if (!open) return undefined;
  const { draft, register } = open;
  const head = { draft: id, revision: draft.revision, snapshot: register.snapshot.id };
  report({ step: "checking", done: 0, of: 1 });
  const errors = errorsOf(open);
  if (errors.length > 0) return { ...head, outcome: "impossible", errors: errors.slice(0, shown), errorCount: errors.length };
  report({ step: "access", done: 0, of: 1 });
  const before = register.compiled;
  const after = compileFacility(withChanges(open).facility, before);
  const judging = await judgingOf(services, before, register.snapshot.id);
  const horizon = judgedHorizon(before, judging.settings);
  const beside = horizon.beside(after);
  const access = effectOnAccess(horizon, beside);
  report({ step: "findings", done: 0, of: 1 });
  // A card that is not there yet was not used, and that says nothing.
  const isAdded = ({ rule, subject }: Finding): boolean => rulesOfUse.has(rule) && subject.kind === "credential" && !before.credentialById.has(subject.id);
  const is = findAll(judged(beside, judging));
  const { come, gone, beyond } = changedFindings(findAll(judged(horizon, judging)), { ...is, findings: is.findings.filter((finding) => !isAdded(finding)) });
  const name = namesIn(open);
  const listOfSubject: Partial<Record<string, ListKey>> = {
    credential: "credentials",
    cardholder: "cardholders",
    door: "doors",
    group: "groups",
    level: "levels",
    schedule: "schedules",
    calendar: "calendars",
    grant: "grants",
    area: "areas",
  };
  const named = ({ rule, risk, subject, cardholder }: Finding): EffectFinding => {
    const list = listOfSubject[subject.kind];
    return { rule, risk, about: cardholder !== undefined ? name("cardholders", cardholder) : list ? name(list, subject.id) : subject.id };
  };
  const oddBefore = new Set(notesOn(before.facility).map(noteKey));
  const notes = notesOn(after.facility)
    .filter((note) => !oddBefore.has(noteKey(note)))
    .map((note) => draftIssue(after.facility, note, name));
  return {
    ...head,
    outcome: "worked-out",
    access,
    notes: notes.slice(0, shown),
    come: come.slice(0, shown).map(named),
    comeCount: come.length,
    gone: gone.slice(0, shown).map(named),
    goneCount: gone.length,
    beyond,
  };
}
