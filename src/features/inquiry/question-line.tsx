"use client";

import { Combobox, Loader, UnstyledButton, useCombobox } from "@mantine/core";
import { useDebouncedValue, useHotkeys } from "@mantine/hooks";
import { useRouter } from "next/navigation";
import { useEffect, useMemo, useRef, useState } from "react";
import { cardholderTypes } from "@/core/questions/question";
import type { Inquiry, QuestionNames } from "@/operations/inquiry/inquiry";
import type { Suggestion } from "@/operations/register/list-register";
import type { ReadTimes } from "@/operations/inquiry/read-question";
import { useFetched } from "@/ui/fetched";
import { questionQuery } from "./address";
import { kindWords } from "../words/register-words";
import { refusalText, whenFull, whenShort } from "../words/when";
import { useSingleKeys } from "../shell/single-keys";
import { rememberTyped } from "./typed-times";
import classes from "./question-line.module.css";
import { useUnfinishedPart } from "./unfinished-part";

export interface AskedQuestion {
  readonly inquiry: Inquiry;
  readonly names: QuestionNames;
  /** The snapshot that answers where the question names none and the latest is not meant: that which stood at the asked time. */
  readonly stood?: number | undefined;
}

export const nothingAsked: AskedQuestion = {
  inquiry: { who: undefined, where: undefined, when: { kind: "any" }, lockdown: false },
  names: { who: undefined, where: undefined },
};

type QuestionPart = "who" | "where" | "when";

interface Choice {
  readonly label: string;
  readonly detail: string;
  readonly fill: (inquiry: Inquiry) => Inquiry;
}

const leaveOpen: Readonly<Record<QuestionPart, Choice>> = {
  who: { label: "Leave open: who can?", detail: "asks for everybody", fill: (inquiry) => ({ ...inquiry, who: undefined }) },
  where: { label: "Leave open: where?", detail: "asks for every door", fill: (inquiry) => ({ ...inquiry, where: undefined }) },
  when: { label: "Leave open", detail: "at any time", fill: (inquiry) => ({ ...inquiry, when: { kind: "any" } }) },
};

const placeholders: Readonly<Record<QuestionPart, string>> = {
  who: "part of a name, number, department …",
  where: "part of a door, area, site …",
  when: "next Friday 22:00, nights, now …",
};

const asChoice =
  (part: "who" | "where") =>
  ({ kind, id, name, detail, status }: Suggestion): Choice => ({
    label: name,
    detail: [kindWords[kind][1].toLowerCase(), detail, status === "active" ? undefined : status].filter(Boolean).join(" · "),
    fill: (inquiry) => ({ ...inquiry, [part]: { kind, id } }),
  });

/** Whom and what one can ask about that is no object of the register. */
const standing: Readonly<Record<"who" | "where", readonly Choice[]>> = {
  who: [
    { label: "Everybody", detail: "all people and all cards without a holder", fill: (inquiry) => ({ ...inquiry, who: { kind: "everybody" } }) },
    ...cardholderTypes.map((type): Choice => ({
      label: `Everybody of type ${type}`,
      detail: "by type",
      fill: (inquiry) => ({ ...inquiry, who: { kind: "type", type } }),
    })),
  ],
  where: [
    { label: "Anything", detail: "every door", fill: (inquiry) => ({ ...inquiry, where: { kind: "anywhere" } }) },
    ...([1, 2, 3] as const).map((from): Choice => ({
      label: `Doors of sensitivity ${from === 3 ? "3" : `${from} and more`}`,
      detail: "by the most sensitive area around them",
      fill: (inquiry) => ({ ...inquiry, where: { kind: "sensitivity", from } }),
    })),
  ],
};

/** Those of the standing choices that have every typed word. */
const standingWith = (part: "who" | "where", text: string): readonly Choice[] =>
  standing[part].filter(({ label, detail }) =>
    text
      .trim()
      .toLowerCase()
      .split(/\s+/)
      .every((word) => `${label} ${detail}`.toLowerCase().includes(word)),
  );

/** Times as choices, each with its reading in full. */
const timeChoices = ({ read, offered }: ReadTimes): Choice[] =>
  [...(read ? [read] : []), ...offered].map(({ typed, when }) => ({
    label: typed,
    detail: whenFull(when),
    fill: (inquiry) => {
      rememberTyped(when, typed);
      return { ...inquiry, when };
    },
  }));

interface Offered {
  readonly choices: readonly Choice[];
  /** Why there is none. */
  readonly refusal: string;
  /** What is shown belongs to an earlier text until the answer to this one is there. */
  readonly busy: boolean;
}

/** Suggestions for a part as it is typed: of who and where from the register, of when as it is read there. */
function useChoices(part: QuestionPart, text: string): Offered {
  const [wanted] = useDebouncedValue(text, 120);
  const query = encodeURIComponent(wanted);
  const times = useFetched<ReadTimes>(part === "when" ? `/inquiry/when?text=${query}` : undefined);
  const objects = useFetched<{ readonly items: readonly Suggestion[] }>(part === "when" ? undefined : `/inquiry/suggest?part=${part}&text=${query}`);
  const found = part === "when" ? times : objects;
  const offered = useMemo((): Omit<Offered, "busy"> => {
    if (part === "when")
      return times.state === "there"
        ? { choices: timeChoices(times.value), refusal: times.value.refusal ? refusalText(times.value.refusal) : "" }
        : { choices: [], refusal: times.state === "failed" ? "Times cannot be read at the moment. Try again." : "" };
    return objects.state === "there"
      ? { choices: [...objects.value.items.map(asChoice(part)), ...standingWith(part, wanted)], refusal: "Nothing in the register has this in any field." }
      : { choices: [], refusal: objects.state === "failed" ? "The register cannot be searched at the moment. Try again." : "" };
    // eslint-disable-next-line react-hooks/exhaustive-deps -- what came is known by what was asked and whether it is there
  }, [part, wanted, found.state]);
  return { ...offered, busy: found.state === "awaited" || wanted !== text };
}

function Editor({
  part,
  filled,
  typed,
  onType,
  onChoose,
  onLeave,
}: {
  readonly part: QuestionPart;
  readonly filled: boolean;
  /** What was typed before. */
  readonly typed: string;
  readonly onType: (text: string) => void;
  readonly onChoose: (choice: Choice) => void;
  readonly onLeave: () => void;
}) {
  const [text, setText] = useState(typed);
  const input = useRef<HTMLInputElement>(null);
  const combobox = useCombobox({ defaultOpened: true });
  const { choices, refusal, busy } = useChoices(part, text);
  const shown = [...choices, ...(filled ? [leaveOpen[part]] : [])];
  // Enter pressed before the suggestions for the typed text have come takes the first of them when they do.
  const entered = useRef(false);
  useEffect(() => input.current?.focus(), []);
  useEffect(() => {
    if (!entered.current || busy) return;
    entered.current = false;
    const [first] = choices;
    if (first) onChoose(first);
  }, [busy, choices, onChoose]);
  useEffect(() => {
    combobox.selectFirstOption();
  }, [combobox, choices]);
  return (
    <Combobox
      store={combobox}
      width={420}
      position="bottom-start"
      onOptionSubmit={(value) => {
        const choice = shown[Number(value)];
        if (choice) onChoose(choice);
      }}
    >
      <Combobox.Target>
        <input
          ref={input}
          className={classes.input}
          aria-label={part === "who" ? "Who" : part === "where" ? "Opens where" : "When"}
          placeholder={placeholders[part]}
          value={text}
          onChange={(event) => {
            setText(event.currentTarget.value);
            onType(event.currentTarget.value);
            entered.current = false;
            combobox.openDropdown();
          }}
          onKeyDownCapture={(event) => {
            if (event.key === "Escape") onLeave();
            if (event.key === "Enter" && busy) {
              event.preventDefault();
              event.stopPropagation();
              entered.current = true;
            }
          }}
          onBlur={({ currentTarget }) => {
            // What takes its place when an answer comes goes on with it.
            setTimeout(() => currentTarget.isConnected && onLeave());
          }}
        />
      </Combobox.Target>
      <Combobox.Dropdown>
        <Combobox.Options mah={360} style={{ overflowY: "auto" }}>
          {shown.map((choice, i) => (
            <Combobox.Option key={`${choice.label} ${choice.detail}`} value={String(i)}>
              <span className={classes.option}>
                <span>{choice.label}</span>
                <span className={classes.detail}>{choice.detail}</span>
              </span>
            </Combobox.Option>
          ))}
          {!busy && refusal !== "" && (part === "when" || shown.length === 0) && <Combobox.Empty style={{ textAlign: "left" }}>{refusal}</Combobox.Empty>}
          {busy && shown.length === 0 && (
            <Combobox.Empty>
              <Loader size="xs" aria-label="Searching" />
            </Combobox.Empty>
          )}
        </Combobox.Options>
      </Combobox.Dropdown>
    </Combobox>
  );
}

/** The question that stands on top of every view: who opens where, when. What is left open is what is asked. */
export function QuestionLine({ asked, at = "/inquiry" }: { readonly asked: AskedQuestion; /** The page that answers. */ readonly at?: string }) {
  const router = useRouter();
  const [singleKeys] = useSingleKeys();
  const { inquiry } = asked;
  const { editing, typed, begin: edit, type, end } = useUnfinishedPart<QuestionPart>(questionQuery(inquiry));
  // Who fills one part before the answer to the one before has come means both.
  const latest = useRef(inquiry);
  useEffect(() => {
    latest.current = inquiry;
  }, [inquiry]);
  const ask = (next: Inquiry) => {
    latest.current = next;
    end();
    router.push(`${at}?${questionQuery(next)}`);
  };
  const firstOpen: QuestionPart = inquiry.where === undefined ? "where" : inquiry.who === undefined ? "who" : "when";
  const hasQuestion = inquiry.who !== undefined || inquiry.where !== undefined;
  const inLockdown: Inquiry = { ...inquiry, lockdown: !inquiry.lockdown };
  const asIfLive: Inquiry = { ...inquiry, asIfLive: inquiry.asIfLive ? undefined : true };
  useHotkeys([
    ["/", () => singleKeys && edit(firstOpen)],
    ["x", () => singleKeys && hasQuestion && ask(inLockdown)],
    ["l", () => singleKeys && hasQuestion && ask(asIfLive)],
  ]);
  const slot = (part: QuestionPart, filled: string | undefined, open: string) =>
    editing === part ? (
      <Editor part={part} filled={filled !== undefined} typed={typed} onType={type} onChoose={(choice) => ask(choice.fill(latest.current))} onLeave={end} />
    ) : (
      <UnstyledButton
        className={filled === undefined ? classes.open : classes.slot}
        aria-label={`${open}: ${filled ?? "left open"}`}
        onClick={() => edit(part)}
      >
        {filled ?? open}
      </UnstyledButton>
    );
  const when = inquiry.when.kind === "any" ? undefined : whenShort(inquiry.when);
  return (
    <>
      <div className={classes.line}>
        {slot("who", asked.names.who, "Who")}
        opens
        {slot("where", asked.names.where, "what")}
        {inquiry.when.kind === "moment" ? "on" : ""}
        <span className={classes.tail}>
          {slot("when", when, "when")}
          {inquiry.lockdown ? " in a lockdown" : ""}
          {inquiry.asIfLive ? " as if live" : ""}
          {inquiry.draft === undefined ? "" : " with the draft"}?
        </span>
      </div>
      <div className={classes.keys}>
        <UnstyledButton className={classes.key} onClick={() => edit(firstOpen)}>
          <kbd>/</kbd> ask
        </UnstyledButton>
        <br />
        <UnstyledButton
          className={inquiry.lockdown ? classes.on : classes.key}
          aria-pressed={inquiry.lockdown}
          disabled={!hasQuestion}
          onClick={() => ask(inLockdown)}
        >
          <kbd>x</kbd> in a lockdown
        </UnstyledButton>
        <br />
        <UnstyledButton
          className={inquiry.asIfLive ? classes.on : classes.key}
          aria-pressed={inquiry.asIfLive === true}
          disabled={!hasQuestion}
          onClick={() => ask(asIfLive)}
        >
          <kbd>l</kbd> as if live
        </UnstyledButton>
      </div>
    </>
  );
}
