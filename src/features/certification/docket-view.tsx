"use client";

import { UnstyledButton } from "@mantine/core";
import { useEffect, useRef, useState } from "react";
import { countDecisions } from "@/core/certification/sign-docket";
import type { Language } from "@/core/certification/signing-statement";
import { languages } from "@/core/certification/signing-statement";
import type { LineAbout } from "@/core/certification/line-content";
import { aboutKey, isDefinition } from "@/core/certification/line-content";
import { groupBy } from "@/core/kernel/compare";
import type { ShownDocket, ShownLine } from "@/operations/certification/show-docket";
import { Progress } from "@/ui/sheet";
import sheet from "@/ui/sheet.module.css";
import { useAction } from "@/ui/use-action";
import { RecordLink } from "../evidence/record-link";
import { useSingleKeys } from "../shell/single-keys";
import type { DocketWords } from "../words/docket/docket-words";
import { docketWords } from "../words/docket/in-language";
import { notRead } from "../words/not-read";
import { clockText } from "../words/times";
import type { DecisionQueue, Pending } from "./decision-queue";
import { useDecisionQueue } from "./decision-queue";
import { choiceOf, DocketLineCard } from "./docket-line";
import { useLatestDocket } from "./latest-docket";
import { LineEffect } from "./line-effect";
import classes from "./docket.module.css";

export interface DocketViewProps {
  readonly shown: ShownDocket;
  /** The line that it opens at; where it has none such, it opens where something is to be decided. */
  readonly openAt?: number;
  /** Number of the account of whoever looks at it. */
  readonly account: number;
  /** Whether they may read the record. */
  readonly readsRecord?: boolean;
  /** Minute of the export that the lines speak of. */
  readonly asOf: number;
  readonly language: Language;
  /** Loads a docket again. */
  readonly load: (docket: number) => Promise<ShownDocket | undefined>;
  /** Each gives why it was refused, or nothing where it was done. */
  readonly save: (docket: number, pending: Pending) => Promise<string | undefined>;
  readonly comment: (line: number, words: string) => Promise<string | undefined>;
  readonly sign: (docket: number) => Promise<string | undefined>;
  readonly speak: (language: Language) => Promise<void>;
}

/** A page of the docket: somebody with all their lines, or the definitions of one kind. */
interface Part {
  readonly about: LineAbout;
  readonly name: string;
  readonly detail: string;
  readonly lines: readonly ShownLine[];
}

function partsOf(lines: readonly ShownLine[], words: DocketWords): Part[] {
  return [...groupBy(lines, ({ about }) => aboutKey(about)).values()].flatMap((own): Part[] => {
    const [first] = own;
    if (!first) return [];
    const { about } = first;
    return about.kind === "definitions"
      ? [{ about, name: words.definitions.heading[about.id], detail: words.definitions.about[about.id], lines: own }]
      : [{ about, name: first.holderName, detail: words.holder(first.holder), lines: own }];
  });
}

/** A line that nothing is unusual about, in few words. */
function inShort({ line }: ShownLine, words: DocketWords): string {
  if (!isDefinition(line)) return line.hours.map((hours) => words.hours(hours)).join(" ");
  const { definition } = line;
  const hours = definition.kind === "level" || definition.kind === "unlocking" ? definition.hours.map((one) => words.definitions.hours(one)) : [];
  return [...words.definitions.facts(definition), ...new Set(hours), words.definitions.touches(definition)].join(" ");
}

/** What a line is called in a list of lines of several people. */
const calledIn = ({ line, holderName }: ShownLine, words: DocketWords): string =>
  isDefinition(line) ? words.definitions.title(line.subject) : `${holderName}: ${line.subject.name}`;

function Signing({
  shown,
  parts,
  editable,
  queue,
  words,
  sign,
  goTo,
}: {
  readonly shown: ShownDocket;
  readonly parts: readonly Part[];
  readonly editable: boolean;
  readonly queue: DecisionQueue;
  readonly words: DocketWords;
  readonly sign: () => Promise<string | undefined>;
  readonly goTo: (person: number) => void;
}) {
  const { busy, refused, run } = useAction();
  const { docket } = shown;
  const decisions = shown.lines.map((line) => ({ line, decision: choiceOf(line, queue.choices.get(line.id))?.decision }));
  const ofAccess = decisions.filter(({ line }) => !isDefinition(line.line));
  const ofDefinitions = decisions.filter(({ line }) => isDefinition(line.line));
  const going = ofAccess.filter(({ decision }) => decision === "withdraw" || decision === "narrow");
  const changing = ofDefinitions.filter(({ decision }) => decision === "withdraw");
  const counted = [
    ...(ofAccess.length > 0 ? [words.counts(countDecisions(ofAccess))] : []),
    ...(ofDefinitions.length > 0 ? [words.definitions.counts(countDecisions(ofDefinitions))] : []),
  ];
  const isOpen = (line: ShownLine): boolean => choiceOf(line, queue.choices.get(line.id)) === undefined;
  const undecided = parts.flatMap(({ name, lines }, i) => (lines.some(isOpen) ? [{ name, i }] : []));
  const isReady = undecided.length === 0 && queue.state === "saved";
  return (
    <div className={classes.person}>
      <h1>{docket.signedAt !== undefined ? words.signedHeading : docket.closedAt !== undefined ? words.closedHeading : words.signHeading}</h1>
      {docket.closedAt !== undefined && <p>{words.closedSays}</p>}
      <p className={classes.statement}>{docket.statement ?? counted.join(" ")}</p>
      {docket.signedAt !== undefined && (
        <p className={sheet.sub}>
          {clockText(docket.signedAt)} · SHA-256 {docket.hash}
        </p>
      )}
      {going.length > 0 && (
        <>
          <p>{words.goingHeading}</p>
          <ul>
            {going.map(({ line }) => (
              <li key={line.id}>{calledIn(line, words)}</li>
            ))}
          </ul>
        </>
      )}
      {changing.length > 0 && (
        <>
          <p>{words.definitions.changingHeading}</p>
          <ul>
            {changing.map(({ line }) => (
              <li key={line.id}>{calledIn(line, words)}</li>
            ))}
          </ul>
        </>
      )}
      {undecided.length > 0 && docket.closedAt === undefined && (
        <>
          <p>{words.undecidedHeading}</p>
          <ul>
            {undecided.map(({ name, i }) => (
              <li key={i}>
                <UnstyledButton className={sheet.plain} onClick={() => goTo(i)}>
                  {name}
                </UnstyledButton>
              </li>
            ))}
          </ul>
        </>
      )}
      {editable && (
        <div className={classes.choices} style={{ gridTemplateColumns: "1fr" }}>
          <UnstyledButton className={isReady ? classes.chosen : classes.choice} disabled={!isReady || busy} onClick={() => run(sign)}>
            {words.sign(shown.lines.length)}
          </UnstyledButton>
        </div>
      )}
      {editable && <p className={classes.effect}>{words.forGood}</p>}
      {refused !== undefined && (
        <p role="alert" className={classes.refused}>
          {refused}
        </p>
      )}
    </div>
  );
}

/** Whether the keyboard is at work in a field, or in something that opens. */
const isTyping = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement && (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName));

const choiceKeys: Readonly<Record<string, string>> = { k: "keep", n: "narrow", w: "withdraw", p: "pass-on", u: "undo" };

/** Every choice by one key, on the line that has the focus, else on the first that is undecided. */
function useKeys(go: (by: 1 | -1) => void, keepAll: () => void): void {
  const [singleKeys] = useSingleKeys();
  const acts = useRef({ go, keepAll });
  useEffect(() => {
    acts.current = { go, keepAll };
  });
  useEffect(() => {
    if (!singleKeys) return;
    const lines = (): HTMLElement[] => [...document.querySelectorAll<HTMLElement>("[data-line]")];
    const onKey = (event: KeyboardEvent): void => {
      if (event.ctrlKey || event.metaKey || event.altKey || isTyping(event.target)) return;
      const at = lines().findIndex((line) => line.contains(document.activeElement));
      const step = event.key === "ArrowDown" ? 1 : event.key === "ArrowUp" ? -1 : 0;
      if (step !== 0) {
        const next = lines()[at < 0 ? 0 : at + step];
        if (!next) return;
        event.preventDefault();
        next.focus();
        next.scrollIntoView({ block: "nearest" });
        return;
      }
      if (event.key === "ArrowRight" || event.key === "ArrowLeft") return acts.current.go(event.key === "ArrowRight" ? 1 : -1);
      if (event.key === "a") return acts.current.keepAll();
      const choice = choiceKeys[event.key];
      if (choice === undefined) return;
      const line = lines()[Math.max(0, at)];
      const button = line?.querySelector<HTMLButtonElement>(`[data-choice="${choice}"]:not(:disabled)`);
      if (!line || !button) return;
      event.preventDefault();
      if (at < 0) line.focus();
      button.click();
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [singleKeys]);
}

/** A certifier's docket: one person after another, the unremarkable together, and at the end the signature. */
export function DocketView({ shown: first, openAt, account, readsRecord = false, asOf, language, load, save, comment, sign, speak }: DocketViewProps) {
  const [shown, look] = useLatestDocket(first, load);
  const words = docketWords(language);
  const parts = partsOf(shown.lines, words);
  const hasDefinitions = parts.some(({ about }) => about.kind === "definitions");
  const { docket } = shown;
  const isOver = (docket.signedAt ?? docket.closedAt) !== undefined;
  const firstOpen = parts.findIndex(({ lines }) => lines.some(({ decision }) => decision === undefined));
  const asked = parts.findIndex(({ lines }) => lines.some(({ id }) => id === openAt));
  const [at, setAt] = useState(asked >= 0 ? asked : isOver || firstOpen < 0 ? parts.length : firstOpen);
  const [unfolded, unfold] = useState(false);
  useEffect(() => {
    window.scrollTo(0, 0);
  }, [at]);
  const queue = useDecisionQueue(
    { docket: docket.id, account },
    shown,
    (pending) => save(docket.id, pending),
    look,
  );
  const editable = shown.mine && !isOver;
  const chosen = (line: ShownLine) => choiceOf(line, queue.choices.get(line.id));
  const decided = shown.lines.filter((line) => chosen(line) !== undefined).length;
  const person = parts[at];
  const refreshed = async (done: Promise<string | undefined>) => {
    const why = await done;
    look();
    return why;
  };
  const alone = person?.lines.filter(({ unremarkable, aboutYourself }) => !unremarkable || aboutYourself) ?? [];
  const common = person?.lines.filter(({ unremarkable, aboutYourself }) => unremarkable && !aboutYourself) ?? [];
  const isOfDefinitions = person?.about.kind === "definitions";
  const commonHeading = isOfDefinitions ? words.definitions.sameAsBefore(common.length) : words.sameAsColleagues(common.length);
  const open = common.filter((line) => chosen(line) === undefined);
  const go = (by: 1 | -1) => {
    unfold(false);
    setAt(Math.max(0, Math.min(parts.length, at + by)));
  };
  const keepAll = () => {
    if (person && open.length > 0 && editable) queue.put({ key: `part ${aboutKey(person.about)}`, keepAllOf: person.about, lines: open.map(({ id }) => id) });
  };
  useKeys(go, keepAll);
  const choose: Parameters<typeof DocketLineCard>[0]["choose"] = (line, choice) => queue.put({ key: `line ${line}`, line, choice });
  const card = (line: ShownLine) => (
    <DocketLineCard
      key={line.id}
      shown={line}
      asOf={asOf}
      timeZone={shown.snapshot.timeZone}
      editable={editable}
      words={words}
      others={shown.others}
      waiting={queue.choices.get(line.id)}
      refused={queue.refused.get(line.id)}
      choose={choose}
      comment={(...args) => refreshed(comment(...args))}
    />
  );
  return (
    <main className={classes.page} lang={language}>
      <div className={classes.top}>
        <strong>Nomade</strong>
        <span className={sheet.sub}>
          {person ? (hasDefinitions ? words.definitions.partOf : words.personOf)(at + 1, parts.length) : shown.round.name} ·{" "}
          {words.progress(decided, shown.lines.length)}
        </span>
      </div>
      <Progress done={decided} of={shown.lines.length} label={words.progress(decided, shown.lines.length)} />
      <div className={classes.under}>
        {editable ? (
          <span role="status" className={queue.state === "waiting" ? classes.waiting : undefined}>
            {queue.state === "saved" ? words.saved : queue.state === "saving" ? words.saving : words.waiting(queue.count)}
          </span>
        ) : (
          <span />
        )}
        {languages
          .filter((other) => other !== language)
          .map((other) => (
            <UnstyledButton key={other} className={sheet.plain} lang={other} onClick={() => void speak(other)}>
              {docketWords(other).called}
            </UnstyledButton>
          ))}
        {readsRecord && <RecordLink of={{ on: [`docket ${docket.id}`] }} words={words.inRecord} />}
      </div>
      {!person && <Signing shown={shown} parts={parts} editable={editable} queue={queue} words={words} sign={() => refreshed(sign(docket.id))} goTo={setAt} />}
      {person && (
        <>
          <header className={classes.person}>
            <h1>{person.name}</h1>
            <div className={sheet.sub}>
              {person.detail} · {words.docketOf(docket.certifierName)}
              {notRead(shown.snapshot)}
              {shown.mine ? "" : words.notDecidedByYou}
            </div>
            {docket.corrects !== undefined && <div className={sheet.sub}>{words.correctsEarlier}</div>}
          </header>
          {alone.map(card)}
          {common.length > 0 && (
            <section className={classes.common} aria-label={commonHeading}>
              <h2>{commonHeading}</h2>
              {unfolded ? (
                common.map(card)
              ) : (
                <ul>
                  {common.map((line) => {
                    const isWithdrawn = chosen(line)?.decision === "withdraw";
                    const decision = chosen(line)?.decision;
                    return (
                      <li key={line.id} data-line={line.id} tabIndex={-1}>
                        <span>
                          <b>{isDefinition(line.line) ? words.definitions.title(line.line.subject) : line.line.subject.name}</b>
                          <div className={sheet.sub}>{inShort(line, words)}</div>
                          {isWithdrawn && <LineEffect line={line.id} words={words} />}
                        </span>
                        {editable && !isDefinition(line.line) ? (
                          <UnstyledButton
                            className={classes.act}
                            aria-label={isWithdrawn ? words.keepNamed(line.line.subject.name) : words.withdrawNamed(line.line.subject.name)}
                            data-choice={isWithdrawn ? "keep" : "withdraw"}
                            onClick={() => choose(line.id, { decision: isWithdrawn ? "keep" : "withdraw", reason: "" })}
                          >
                            {isWithdrawn ? words.withdrawnKeep : words.withdraw(false).toLowerCase()}
                          </UnstyledButton>
                        ) : (
                          <span className={sheet.sub}>{decision === undefined ? words.notDecided : words.decided(decision)}</span>
                        )}
                      </li>
                    );
                  })}
                </ul>
              )}
              {!unfolded && (
                <UnstyledButton className={classes.aside} onClick={() => unfold(true)}>
                  {words.showMore(common.length)}
                </UnstyledButton>
              )}
            </section>
          )}
          {editable && (
            <details className={classes.keys}>
              <summary>{words.showKeys}</summary>
              {words.keysHint}
            </details>
          )}
        </>
      )}
      <div className={classes.bottom}>
        <UnstyledButton className={classes.back} disabled={at === 0} onClick={() => go(-1)}>
          {words.back}
        </UnstyledButton>
        {person && open.length > 0 && editable ? (
          <UnstyledButton className={classes.act} onClick={keepAll}>
            {isOfDefinitions ? words.definitions.keepAll(open.length) : words.keepAll(open.length)}
          </UnstyledButton>
        ) : (
          person && (
            <UnstyledButton className={classes.act} onClick={() => go(1)}>
              {at + 1 === parts.length ? words.toSignature : hasDefinitions ? words.definitions.nextPart : words.nextPerson}
            </UnstyledButton>
          )
        )}
      </div>
    </main>
  );
}
