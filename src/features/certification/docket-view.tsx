"use client";

import { UnstyledButton } from "@mantine/core";
import { useRouter } from "next/navigation";
import { useEffect, useState } from "react";
import type { Decision } from "@/core/certification/decide-line";
import type { HolderId } from "@/core/facility/holder-id";
import { holderKey } from "@/core/facility/holder-id";
import { groupBy } from "@/core/kernel/compare";
import type { ShownDocket, ShownLine } from "@/operations/certification/show-docket";
import { Progress } from "@/ui/sheet";
import sheet from "@/ui/sheet.module.css";
import { useAction } from "@/ui/use-action";
import { holderWords } from "../words/holders";
import { notRead } from "../words/not-read";
import { capital, countWords, plural } from "../words/numbers";
import { clockText } from "../words/times";
import { DocketLineCard } from "./docket-line";
import { WithdrawalEffect } from "./withdrawal-effect";
import classes from "./docket.module.css";

export interface DocketViewProps {
  readonly shown: ShownDocket;
  /** Minute of the export that the lines speak of. */
  readonly asOf: number;
  readonly decide: (line: number, decision: Decision, reason: string) => Promise<string | undefined>;
  readonly keepAll: (docket: number, holder: HolderId) => Promise<string | undefined>;
  readonly sign: (docket: number) => Promise<string | undefined>;
}

interface Person {
  readonly holder: HolderId;
  readonly name: string;
  readonly detail: string;
  readonly lines: readonly ShownLine[];
}

function peopleOf(lines: readonly ShownLine[]): Person[] {
  return [...groupBy(lines, ({ about }) => holderKey(about)).values()].flatMap((own) => {
    const [first] = own;
    return first ? [{ holder: first.about, name: first.holderName, detail: holderWords(first.holder), lines: own }] : [];
  });
}

function Signing({
  shown,
  people,
  editable,
  sign,
  goTo,
}: {
  readonly shown: ShownDocket;
  readonly people: readonly Person[];
  readonly editable: boolean;
  readonly sign: () => Promise<string | undefined>;
  readonly goTo: (person: number) => void;
}) {
  const { busy, refused, run } = useAction();
  const withdrawn = shown.lines.filter(({ decision }) => decision === "withdraw");
  const undecided = people.flatMap(({ name, lines }, i) => (lines.some(({ decision }) => decision === undefined) ? [{ name, i }] : []));
  const kept = shown.lines.filter(({ decision }) => decision === "keep").length;
  return (
    <div className={classes.person}>
      <h1>{shown.docket.signedAt === undefined ? "Sign your docket" : "Signed"}</h1>
      <p className={classes.statement}>
        {shown.docket.statement ?? `${capital(plural(kept, "line stays", "lines stay"))}, ${plural(withdrawn.length, "is", "are")} withdrawn.`}
      </p>
      {shown.docket.signedAt !== undefined && (
        <p className={sheet.sub}>
          {clockText(shown.docket.signedAt)} · SHA-256 {shown.docket.hash}
        </p>
      )}
      {withdrawn.length > 0 && (
        <ul>
          {withdrawn.map((line) => (
            <li key={line.id}>
              {line.holderName}: {line.line.subject.name}
            </li>
          ))}
        </ul>
      )}
      {undecided.length > 0 && (
        <>
          <p>Not decided yet:</p>
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
          <UnstyledButton className={undecided.length > 0 ? classes.choice : classes.chosen} disabled={undecided.length > 0 || busy} onClick={() => run(sign)}>
            Sign {shown.lines.length} lines
          </UnstyledButton>
        </div>
      )}
      {editable && <p className={classes.effect}>Signing is for good: a signed docket does not change any more, and what you withdrew goes out as orders.</p>}
      {refused !== undefined && (
        <p role="alert" className={classes.refused}>
          {refused}
        </p>
      )}
    </div>
  );
}

/** A certifier's docket: one person after another, the unremarkable together, and at the end the signature. */
export function DocketView({ shown, asOf, decide, keepAll, sign }: DocketViewProps) {
  const router = useRouter();
  const people = peopleOf(shown.lines);
  const firstOpen = people.findIndex(({ lines }) => lines.some(({ decision }) => decision === undefined));
  const [at, setAt] = useState(shown.docket.signedAt !== undefined || firstOpen < 0 ? people.length : firstOpen);
  const { busy, refused, run } = useAction();
  useEffect(() => {
    window.scrollTo(0, 0);
  }, [at]);
  const editable = shown.mine && shown.docket.signedAt === undefined;
  const decided = shown.lines.filter(({ decision }) => decision !== undefined).length;
  const person = people[at];
  const refreshed = async (done: Promise<string | undefined>) => {
    const words = await done;
    router.refresh();
    return words;
  };
  const alone = person?.lines.filter(({ unremarkable }) => !unremarkable) ?? [];
  const common = person?.lines.filter(({ unremarkable }) => unremarkable) ?? [];
  const open = common.filter(({ decision }) => decision === undefined);
  return (
    <main className={classes.page}>
      <div className={classes.top}>
        <strong>Nomade</strong>
        <span className={sheet.sub}>
          {person ? `Person ${at + 1} of ${people.length}` : shown.round.name} · {decided} of {shown.lines.length} lines
        </span>
      </div>
      <Progress done={decided} of={shown.lines.length} label={`${decided} of ${shown.lines.length} lines decided`} />
      {!person && <Signing shown={shown} people={people} editable={editable} sign={() => refreshed(sign(shown.docket.id))} goTo={setAt} />}
      {person && (
        <>
          <header className={classes.person}>
            <h1>{person.name}</h1>
            <div className={sheet.sub}>
              {person.detail} · docket of {shown.docket.certifierName ?? "the reviewer"}
              {notRead(shown.snapshot)}
              {shown.mine ? "" : ", which you see but do not decide"}
            </div>
          </header>
          {alone.map((line) => (
            <DocketLineCard
              key={line.id}
              shown={line}
              asOf={asOf}
              timeZone={shown.snapshot.timeZone}
              editable={editable}
              decide={(...args) => refreshed(decide(...args))}
            />
          ))}
          {common.length > 0 && (
            <section className={classes.common} aria-label="Same as most colleagues">
              <h2>Same as most colleagues: {plural(common.length, "line", "lines")}</h2>
              <ul>
                {common.map((line) => (
                  <li key={line.id}>
                    <span>
                      <b>{line.line.subject.name}</b>
                      <div className={sheet.sub}>{line.line.hours.map(({ words }) => words).join("; ")}</div>
                      {line.decision === "withdraw" && <WithdrawalEffect line={line.id} />}
                    </span>
                    {editable ? (
                      <UnstyledButton
                        className={classes.act}
                        aria-label={`${line.decision === "withdraw" ? "Keep" : "Withdraw"} ${line.line.subject.name}`}
                        disabled={busy}
                        onClick={() => run(() => refreshed(decide(line.id, line.decision === "withdraw" ? "keep" : "withdraw", "")))}
                      >
                        {line.decision === "withdraw" ? "withdrawn; keep" : "withdraw"}
                      </UnstyledButton>
                    ) : (
                      <span className={sheet.sub}>{line.decision ?? "not decided"}</span>
                    )}
                  </li>
                ))}
              </ul>
            </section>
          )}
        </>
      )}
      {refused !== undefined && (
        <p role="alert" className={classes.refused} style={{ padding: "0 20px" }}>
          {refused}
        </p>
      )}
      <div className={classes.bottom}>
        <UnstyledButton className={classes.back} disabled={at === 0} onClick={() => setAt(at - 1)}>
          Back
        </UnstyledButton>
        {person && open.length > 0 && editable ? (
          <UnstyledButton className={classes.act} disabled={busy} onClick={() => run(() => refreshed(keepAll(shown.docket.id, person.holder)))}>
            Keep {open.length === 1 ? "the one" : `all ${countWords(open.length)}`} that most colleagues have
          </UnstyledButton>
        ) : (
          person && (
            <UnstyledButton className={classes.act} onClick={() => setAt(at + 1)}>
              {at + 1 === people.length ? "To the signature" : "Next person"}
            </UnstyledButton>
          )
        )}
      </div>
    </main>
  );
}
