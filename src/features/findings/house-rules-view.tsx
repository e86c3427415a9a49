"use client";

import { Autocomplete, Button, NumberInput, Select, TextInput } from "@mantine/core";
import { useForm } from "@mantine/form";
import { useDebouncedValue } from "@mantine/hooks";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useState } from "react";
import { spokenKey } from "@/core/findings/about";
import type { HouseBreach, ListedHouseRule, StateOfHouseRule, TriedHouseRule, WrittenDown } from "@/operations/findings/house-rules";
import type { WrittenHouseRule } from "@/operations/ports/house-rules";
import type { Suggestion } from "@/operations/register/list-register";
import { useFetched } from "@/ui/fetched";
import { Heading, Sheet } from "@/ui/sheet";
import sheet from "@/ui/sheet.module.css";
import { useAction } from "@/ui/use-action";
import { questionAddress, questionQuery } from "../inquiry/address";
import type { AskedQuestion } from "../inquiry/question-line";
import { QuestionLine } from "../inquiry/question-line";
import { queryInWords } from "../inquiry/typed-times";
import { TaskProgress } from "../shell/task-progress";
import { breachWords, namesFrom } from "../words/findings";
import { capital, countWords, plural } from "../words/numbers";
import { kindWords } from "../words/register-words";
import { clockText } from "../words/times";
import { findingsHref } from "./findings-address";
import classes from "./findings.module.css";
import { houseRuleSentence, mustWords, refusalWords } from "./house-rule-words";

export interface HouseRuleActions {
  readonly write: (written: WrittenHouseRule, task: string) => Promise<WrittenDown | undefined>;
  readonly attempt: (written: WrittenHouseRule) => Promise<TriedHouseRule | undefined>;
  readonly askEnd: (id: number, asks: boolean) => Promise<boolean>;
  readonly end: (id: number, task: string) => Promise<boolean | undefined>;
}

interface ViewProps {
  readonly asked: AskedQuestion;
  readonly rules: readonly ListedHouseRule[];
  readonly reference: string;
  readonly mayEdit: boolean;
  readonly actions: HouseRuleActions;
}

/** Why a counterexample opens its door then. */
function traceOf({ subject, proof, at }: HouseBreach): string | undefined {
  if ((subject.kind !== "cardholder" && subject.kind !== "credential") || proof.door === undefined || !at) return undefined;
  return questionAddress({
    who: { kind: subject.kind, id: subject.id },
    where: { kind: "door", id: proof.door },
    when: { kind: "moment", at },
    lockdown: false,
  });
}

function Breaches({ state }: { readonly state: StateOfHouseRule }) {
  const { breaches, broken, names, timeZone } = state;
  return (
    <ul className={classes.breaches}>
      {breaches.map((breach) => {
        const { subject, proof } = breach;
        const trace = traceOf(breach);
        const name = names[spokenKey(subject)] ?? subject.id;
        return (
          <li key={spokenKey(subject)}>
            {trace === undefined ? <b>{name}</b> : <Link href={trace}>{name}</Link>}: {breachWords(proof, namesFrom(names, timeZone))}
          </li>
        );
      })}
      {broken > breaches.length && <li>and {(broken - breaches.length).toLocaleString("en-GB")} more</li>}
    </ul>
  );
}

const standsWords = ({ asks, broken }: StateOfHouseRule): string =>
  !asks ? "cannot tell" : broken === 0 ? "holds" : `broken ${broken === 1 ? "once" : `by ${broken.toLocaleString("en-GB")}`}`;

function OtherPlace({ value, onChange }: { readonly value: string | undefined; readonly onChange: (text: string | undefined) => void }) {
  const [text, setText] = useState("");
  const [wanted] = useDebouncedValue(text, 120);
  const found = useFetched<{ readonly items: readonly Suggestion[] }>(`/inquiry/suggest?part=where&text=${encodeURIComponent(wanted)}`);
  const items = found.state === "there" ? found.value.items : [];
  const label = ({ kind, name, detail }: Suggestion): string => `${name} (${[kindWords[kind][1].toLowerCase(), detail].filter(Boolean).join(", ")})`;
  const byLabel = new Map(items.map((item) => [label(item), item]));
  return (
    <Autocomplete
      label="and the second place"
      placeholder="part of a door, area, site …"
      error={value === undefined && text !== "" && !byLabel.has(text) ? "Choose one of those offered." : undefined}
      data={[...byLabel.keys()]}
      filter={({ options }) => options}
      value={text}
      onChange={(next) => {
        setText(next);
        const item = byLabel.get(next);
        onChange(item && `${item.kind}:${item.id}`);
      }}
    />
  );
}

function WriteRule({ asked, mayEdit, actions }: Pick<ViewProps, "asked" | "mayEdit" | "actions">) {
  const router = useRouter();
  const form = useForm({
    initialValues: { name: "", must: "none" as WrittenHouseRule["must"], count: 2 as number | "", other: undefined as string | undefined },
  });
  const [tried, setTried] = useState<TriedHouseRule>();
  const [task, setTask] = useState<string>();
  const [said, setSaid] = useState("");
  const { busy, refused, run } = useAction();
  const { must, count, other, name } = form.values;
  const isNumber = must === "at-least" || must === "at-most";
  const written = (): WrittenHouseRule => ({
    name: name.trim(),
    must,
    query: queryInWords(asked.inquiry),
    ...(must === "not-both" && other !== undefined && { other }),
    ...(isNumber && count !== "" && { count }),
  });
  const change = (values: Partial<typeof form.values>): void => {
    form.setValues(values);
    setTried(undefined);
    setSaid("");
  };
  const attempt = (): void =>
    run(async () => {
      const done = await actions.attempt(written());
      if (!done) return "There is no register yet.";
      if (done.outcome === "refused") return refusalWords[done.why];
      setTried(done);
      return undefined;
    });
  const write = (): void => {
    const number = crypto.randomUUID();
    setTask(number);
    run(async () => {
      const done = await actions.write(written(), number);
      if (!done) return "Stopped. Load the page again and look whether it was written down.";
      if (done.outcome === "refused") return refusalWords[done.why];
      form.reset();
      setTried(undefined);
      setSaid("Written down; the findings of the present register were looked for anew.");
      router.refresh();
      return undefined;
    });
  };
  return (
    <section className={classes.writeRule} aria-label="Write a rule">
      <h2>Write a rule</h2>
      <p className={sheet.sub}>Say on the line above of whom, where and when it speaks; what is left open is everybody, anything, always.</p>
      <Select
        label="What must hold"
        data={Object.entries(mustWords).map(([value, label]) => ({ value, label }))}
        value={must}
        allowDeselect={false}
        onChange={(value) => value !== null && change({ must: value as WrittenHouseRule["must"] })}
      />
      {isNumber && <NumberInput label="How many" min={0} max={50} value={count} onChange={(value) => change({ count: value === "" ? "" : Number(value) })} />}
      {must === "not-both" && <OtherPlace value={other} onChange={(value) => change({ other: value })} />}
      <p className={classes.said}>
        {houseRuleSentence(
          { must, ...(count !== "" && { count }) },
          { who: asked.inquiry.who, names: asked.names, other: tried?.outcome === "tried" ? tried.asks?.other : undefined, when: asked.inquiry.when },
        )}
      </p>
      <div className={classes.buttons}>
        <Button variant="default" size="xs" loading={busy} onClick={attempt}>
          Check it against the present register
        </Button>
      </div>
      {tried?.outcome === "tried" && (
        <div role="status">
          <p>
            {tried.broken === 0
              ? "It holds in the 13 months ahead."
              : `It would be broken ${tried.broken === 1 ? "once" : `by ${tried.broken.toLocaleString("en-GB")}`}.`}
          </p>
          <Breaches state={tried} />
        </div>
      )}
      {mayEdit && (
        <>
          <TextInput label="Name" placeholder="its findings will carry this name" maxLength={200} {...form.getInputProps("name")} />
          <div className={classes.buttons}>
            <Button size="xs" loading={busy} onClick={write}>
              Write it down
            </Button>
          </div>
        </>
      )}
      {refused !== undefined && <p role="alert">{refused}</p>}
      {said !== "" && <p role="status">{said}</p>}
      {busy && task !== undefined && <TaskProgress at="/findings/task" task={task} name="Findings" />}
    </section>
  );
}

function Ending({ rule, actions }: { readonly rule: ListedHouseRule; readonly actions: HouseRuleActions }) {
  const router = useRouter();
  const { busy, refused, run } = useAction();
  const act = (work: () => Promise<boolean | undefined>): void =>
    run(async () => {
      const isDone = await work();
      router.refresh();
      return isDone ? undefined : "That is not so any more: look again.";
    });
  return (
    <p className={sheet.links}>
      {rule.endAskedBy === undefined ? (
        <Button variant="subtle" size="compact-xs" disabled={busy} onClick={() => act(() => actions.askEnd(rule.id, true))}>
          Ask to end it
        </Button>
      ) : (
        <>
          <span>{rule.endAskedBy} asks to end it; somebody else has to confirm that.</span>
          {rule.mayEnd && (
            <Button variant="subtle" size="compact-xs" disabled={busy} onClick={() => act(() => actions.end(rule.id, crypto.randomUUID()))}>
              End it
            </Button>
          )}
          <Button variant="subtle" size="compact-xs" disabled={busy} onClick={() => act(() => actions.askEnd(rule.id, false))}>
            Keep it
          </Button>
        </>
      )}
      {refused !== undefined && <span role="alert">{refused}</span>}
    </p>
  );
}

/** What the house has written down that must always be so, and how each stands in the present register. */
export function HouseRulesView({ asked, rules, reference, mayEdit, actions }: ViewProps) {
  const broken = rules.filter((one) => one.broken > 0).length;
  const many = plural(rules.length, "rule of the house", "rules of the house");
  const result =
    rules.length === 0
      ? "No rule of the house is written down"
      : broken > 0
        ? `${capital(countWords(broken))} of ${many} ${broken === 1 ? "is" : "are"} broken`
        : `${capital(many)} ${rules.length === 1 ? "holds" : "hold"}${rules.some(({ asks }) => !asks) ? ", as far as can be told" : ""}`;
  return (
    <Sheet
      question={<QuestionLine key={questionQuery(asked.inquiry)} asked={asked} at="/findings/house" />}
      margin={<WriteRule asked={asked} mayEdit={mayEdit} actions={actions} />}
    >
      <Heading
        result={result}
        reference={reference}
        lead="Every intake and every draft is held against them, in the 13 months from its export on; what breaks one is a finding, with a person, a door and an instant."
      />
      <nav aria-label="Findings" className={sheet.links}>
        <Link href="/findings">All findings</Link>
        {broken > 0 && <Link href={findingsHref({ rule: "house-rule" })}>Findings of house rules</Link>}
      </nav>
      {rules.map((rule) => (
        <article key={rule.id} className={classes.houseRule}>
          <h2>
            {rule.name} <span className={rule.broken > 0 ? classes.broken : classes.holds}>{standsWords(rule)}</span>
          </h2>
          <p className={sheet.sub}>
            {rule.asks ? houseRuleSentence(rule, rule.asks) : "Of what it speaks the present register does not hold any more"}. Written down by {rule.madeBy},{" "}
            {clockText(rule.madeAt)}.
          </p>
          <Breaches state={rule} />
          {mayEdit && <Ending rule={rule} actions={actions} />}
        </article>
      ))}
    </Sheet>
  );
}
