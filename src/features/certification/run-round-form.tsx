"use client";

import { Button, Select, Textarea, TextInput, UnstyledButton } from "@mantine/core";
import { useRouter } from "next/navigation";
import { useState } from "react";
import type { RoundSheet } from "@/operations/certification/show-rounds";
import sheet from "@/ui/sheet.module.css";
import { useAction } from "@/ui/use-action";
import { certifierWords } from "../words/holders";
import { listWords } from "../words/numbers";
import { clockText, dateText, momentWords } from "../words/times";
import { typedDate } from "@/core/questions/typed-date";
import { parseCivilDay } from "@/core/time/civil-day";
import { dateHere } from "../words/times";

/** What a reviewer can do with a round while it runs; each gives why it was not done, or nothing. */
export interface RunRoundActions {
  readonly release: (round: number) => Promise<string | undefined>;
  readonly askToClose: (round: number, reason: string) => Promise<string | undefined>;
  readonly close: (round: number) => Promise<string | undefined>;
  readonly addSubstitute: (round: number, asked: { certifier: string; account: number; from: string; until: string }) => Promise<string | undefined>;
  readonly give: (docket: number, cardholder: string) => Promise<string | undefined>;
  readonly correct: (docket: number) => Promise<string | undefined>;
}

function Refused({ words }: { readonly words: string | undefined }) {
  return words === undefined ? null : (
    <p role="alert" className={sheet.grave}>
      {words}
    </p>
  );
}

/** Runs an action and shows the page anew. */
function useRefreshing() {
  const router = useRouter();
  const action = useAction();
  const run = (act: () => Promise<string | undefined>, then?: () => void): void =>
    action.run(async () => {
      const why = await act();
      if (why === undefined) {
        then?.();
        router.refresh();
      }
      return why;
    });
  return { ...action, run };
}

/** The date that somebody wrote, as ISO text; the text itself where it is none. */
const written = (text: string): string => typedDate(text, dateHere()) ?? text;

function StandIn({ overview, actions }: { readonly overview: RoundSheet; readonly actions: RunRoundActions }) {
  const { busy, refused, run } = useRefreshing();
  const [isOpen, open] = useState(false);
  const [certifier, setCertifier] = useState<string | null>(null);
  const [account, setAccount] = useState<string | null>(null);
  const [from, setFrom] = useState("");
  const [until, setUntil] = useState("");
  const { round, substitutes, dockets, couldSubstitute } = overview;
  const certifiers = new Map(dockets.flatMap(({ certifier: id, certifierName }) => (id === undefined ? [] : [[id, certifierWords(certifierName)] as const])));
  const day = (text: string): string => {
    const date = parseCivilDay(text);
    return date === undefined ? text : dateText(date);
  };
  return (
    <>
      {substitutes.map((one) => (
        <p key={one.id} className={sheet.sub}>
          {one.account.name} stands in for {certifiers.get(one.certifier) ?? one.certifier}, {day(one.from)} to {day(one.until)}.
        </p>
      ))}
      <UnstyledButton className={sheet.plain} aria-expanded={isOpen} onClick={() => open(!isOpen)}>
        Let somebody stand in …
      </UnstyledButton>
      {isOpen && (
        <div>
          <Select label="For" data={[...certifiers].map(([value, label]) => ({ value, label }))} value={certifier} onChange={setCertifier} searchable mt="xs" />
          <Select
            label="Who stands in"
            data={couldSubstitute.map(({ id, name }) => ({ value: String(id), label: name }))}
            value={account}
            onChange={setAccount}
            searchable
            mt="xs"
          />
          <TextInput label="From" placeholder="1 Dec 2026" value={from} onChange={(event) => setFrom(event.currentTarget.value)} mt="xs" />
          <TextInput label="Until" placeholder="14 Dec 2026" value={until} onChange={(event) => setUntil(event.currentTarget.value)} mt="xs" />
          <Button
            mt="xs"
            size="xs"
            loading={busy}
            disabled={certifier === null || account === null}
            onClick={() =>
              run(
                () => actions.addSubstitute(round.id, { certifier: certifier ?? "", account: Number(account), from: written(from), until: written(until) }),
                () => open(false),
              )
            }
          >
            Let them stand in
          </Button>
          <Refused words={refused} />
        </div>
      )}
    </>
  );
}

function Closing({ overview, actions }: { readonly overview: RoundSheet; readonly actions: RunRoundActions }) {
  const { busy, refused, run } = useRefreshing();
  const [isOpen, open] = useState(false);
  const [reason, setReason] = useState("");
  const { round, askedByYou } = overview;
  const counted = round.terms.undecided === "keep" ? "kept" : "withdrawn";
  if (round.closingAsked)
    return (
      <div className={sheet.notes}>
        {round.closingAsked.by.name} asked on {clockText(round.closingAsked.at)} to close this round: “{round.closingAsked.reason}” What nobody decided counts
        as {counted}.
        {askedByYou ? (
          <div className={sheet.sub}>A second reviewer or an administrator has to confirm it.</div>
        ) : (
          <div>
            <Button size="xs" mt="xs" loading={busy} onClick={() => run(() => actions.close(round.id))}>
              Confirm, and close the round
            </Button>
          </div>
        )}
        <Refused words={refused} />
      </div>
    );
  return (
    <>
      <UnstyledButton className={sheet.plain} aria-expanded={isOpen} onClick={() => open(!isOpen)}>
        Close the round before all is signed …
      </UnstyledButton>
      {isOpen && (
        <div>
          <Textarea
            label="Why?"
            description={`What nobody decided counts as ${counted}. A second person confirms it.`}
            value={reason}
            onChange={(event) => setReason(event.currentTarget.value)}
            autosize
            mt="xs"
          />
          <Button
            size="xs"
            mt="xs"
            loading={busy}
            onClick={() =>
              run(
                () => actions.askToClose(round.id, reason),
                () => open(false),
              )
            }
          >
            Ask to close it
          </Button>
          <Refused words={refused} />
        </div>
      )}
    </>
  );
}

/** "Reminders are planned 7 and 1 days before 22 Nov 2026. Escalation to their managers is planned 3 days after it." */
function plannedWords({ terms, due }: RoundSheet["round"]): string {
  const days = (all: readonly number[]): string => `${listWords(all.map(String))} ${all.length === 1 && all[0] === 1 ? "day" : "days"}`;
  return [
    terms.remind.length > 0 ? `Reminders are planned ${days(terms.remind)} before ${momentWords(due)}.` : "",
    terms.escalate.length > 0 ? `Escalation to their managers is planned ${days(terms.escalate)} after it.` : "",
  ]
    .filter(Boolean)
    .join(" ");
}

/** What a reviewer can do with a round while it runs. */
export function RunRound({ overview, actions }: { readonly overview: RoundSheet; readonly actions: RunRoundActions }) {
  const { busy, refused, run } = useRefreshing();
  const { round, dockets } = overview;
  const held = dockets.filter(({ held: waits }) => waits).length;
  if (round.closedAt !== undefined) return <p className={sheet.sub}>Closed on {clockText(round.closedAt)}.</p>;
  return (
    <>
      <p className={sheet.sub}>
        {plannedWords(round)}
        {overview.mails === undefined && " No mail server is set: tell the certifiers yourself."}
      </p>
      {held > 0 && (
        <p>
          <Button size="xs" loading={busy} onClick={() => run(() => actions.release(round.id))}>
            Let the other {held === 1 ? "docket" : `${held} dockets`} begin
          </Button>
          <Refused words={refused} />
        </p>
      )}
      <StandIn overview={overview} actions={actions} />
      <div>
        <Closing overview={overview} actions={actions} />
      </div>
    </>
  );
}

/** Gives a docket to another certifier who can sign in, or has a signed one corrected. */
export function DocketActions({
  docket,
  signed,
  others,
  actions,
}: {
  readonly docket: number;
  readonly signed: boolean;
  readonly others: RoundSheet["couldSubstitute"];
  readonly actions: RunRoundActions;
}) {
  const { busy, refused, run } = useRefreshing();
  const [isOpen, open] = useState(false);
  if (signed)
    return (
      <>
        <UnstyledButton className={sheet.plain} disabled={busy} onClick={() => run(() => actions.correct(docket))}>
          have it corrected
        </UnstyledButton>
        <Refused words={refused} />
      </>
    );
  return (
    <>
      <UnstyledButton className={sheet.plain} aria-expanded={isOpen} onClick={() => open(!isOpen)}>
        give to another …
      </UnstyledButton>
      {isOpen && (
        <Select
          aria-label="Who certifies it"
          placeholder="Who certifies it"
          size="xs"
          searchable
          disabled={busy}
          data={others.flatMap(({ name, cardholder }) => (cardholder === undefined ? [] : [{ value: cardholder, label: name }]))}
          onChange={(cardholder) =>
            cardholder !== null &&
            run(
              () => actions.give(docket, cardholder),
              () => open(false),
            )
          }
        />
      )}
      <Refused words={refused} />
    </>
  );
}
