"use client";

import { Button, Checkbox, Group, Radio, Select, TextInput } from "@mantine/core";
import type { ProfileTarget, Question, SourceProfile } from "@/operations/intake/try-profile";
import sheet from "@/ui/sheet.module.css";
import { listWords } from "../../words/kinds";
import { capital, plural } from "../../words/numbers";
import { fieldName, madeWords, momentFormWords } from "../../words/profile-fields";
import classes from "../intake.module.css";
import { changeField, leaveTableAside, leftAside, makeFromNames, readColumnAs, setConstant, setMarks, targetKey } from "./edit-profile";
import { ValuesForm } from "./field-form";

interface QuestionsProps {
  readonly questions: readonly Question[];
  readonly profile: SourceProfile;
  readonly targets: readonly ProfileTarget[];
  /** By table the names of its columns. */
  readonly columns: Readonly<Record<string, readonly string[]>>;
  readonly severalTables: boolean;
  readonly onChange: (profile: SourceProfile) => void;
}

const nothingChosen: string = "";
const namesShown = 6;
const textsShown = 3;

const someOf = (texts: readonly string[]): string => `${texts.slice(0, textsShown).join(", ")}${texts.length > textsShown ? ", …" : ""}`;

/** What the profile leaves open for one thing, with the means to say it. */
function OneQuestion({ question, profile, targets, columns, onChange }: Omit<QuestionsProps, "questions" | "severalTables"> & { readonly question: Question }) {
  switch (question.kind) {
    case "table":
      return (
        <>
          <p>What do the rows of this table hold? Say it column by column below, or leave the table aside.</p>
          <Button size="xs" variant="default" onClick={() => onChange(leaveTableAside(profile, question.table, columns[question.table] ?? [], true))}>
            Leave {question.table} aside
          </Button>
        </>
      );
    case "columns":
      return (
        <Group gap="sm">
          <p style={{ margin: 0 }}>
            {question.columns.length === 1 ? "What is the column " : `What are the ${question.columns.length.toLocaleString("en-GB")} columns `}
            <b>{question.columns.slice(0, namesShown).join(", ")}</b>
            {question.columns.length > namesShown && ", …"}? Choose below, or leave {question.columns.length === 1 ? "it" : "them"} aside.
          </p>
          <Button
            size="xs"
            variant="default"
            onClick={() => onChange(question.columns.reduce((changed, column) => readColumnAs(changed, question.table, column, leftAside, targets), profile))}
          >
            Leave {question.columns.length === 1 ? "it" : "them"} aside
          </Button>
        </Group>
      );
    case "gone":
      return (
        <Group gap="sm">
          <p style={{ margin: 0 }}>
            The column <b>{question.column}</b> is not in this file any more.
          </p>
          <Button size="xs" variant="default" onClick={() => onChange(readColumnAs(profile, question.table, question.column, null, targets))}>
            Read without it
          </Button>
        </Group>
      );
    case "needs": {
      const [field = ""] = question.fields;
      const target = targets.find(({ table }) => table === question.makes)?.fields.find(({ name }) => name === field);
      const key = targetKey(question.makes, field);
      const label = `${madeWords[question.makes] ?? question.makes}: ${question.fields.map((one) => fieldName(question.makes, one)).join(" or ")}`;
      return (
        <>
          <p>
            No column says it: <b>{label}</b>. Choose a column for it below, or say what it is for every row.
          </p>
          {target?.values ? (
            <Select
              size="xs"
              w={240}
              aria-label={`${label} of every row`}
              placeholder="the same for every row"
              data={[...target.values]}
              onChange={(value) => onChange(setConstant(profile, question.table, key, value ?? ""))}
            />
          ) : (
            <TextInput
              size="xs"
              w={240}
              aria-label={`${label} of every row`}
              placeholder="the same for every row, Enter"
              onKeyDown={(event) => {
                if (event.key === "Enter") onChange(setConstant(profile, question.table, key, event.currentTarget.value.trim()));
              }}
            />
          )}
        </>
      );
    }
    case "values": {
      const target = targets.find(({ table }) => table === question.makes)?.fields.find(({ name }) => name === question.field);
      const key = targetKey(question.makes, question.field);
      const said =
        profile.tables.find(({ name }) => name === question.table)?.makes.find(({ table }) => table === question.makes)?.fields[question.field]?.values ?? {};
      return (
        <>
          <p>
            What do these values of <b>{question.column}</b> mean?
          </p>
          <ValuesForm
            values={question.values}
            choices={target?.values ?? ["true", "false"]}
            said={said}
            label={fieldName(question.makes, question.field)}
            onChange={(text, meaning) =>
              onChange(
                changeField(profile, question.table, key, (source) => ({
                  ...source,
                  values: { ...source.values, ...(meaning !== undefined && { [text]: meaning }) },
                })),
              )
            }
          />
        </>
      );
    }
    case "marks":
      return (
        <>
          <p>Which of these marks say yes?</p>
          <Group gap="md">
            {question.values.map(({ text, count }) => (
              <Group key={text} gap={6}>
                <code>{text === "" ? "empty" : text}</code>
                <span className={sheet.sub}>{count.toLocaleString("en-GB")}</span>
                <Button
                  size="compact-xs"
                  variant="default"
                  aria-label={`${text} says yes`}
                  onClick={() => onChange(setMarks(profile, question.table, question.makes, question.column, { [text]: true }))}
                >
                  yes
                </Button>
                <Button
                  size="compact-xs"
                  variant="default"
                  aria-label={`${text} says no`}
                  onClick={() => onChange(setMarks(profile, question.table, question.makes, question.column, { [text]: false }))}
                >
                  no
                </Button>
              </Group>
            ))}
          </Group>
        </>
      );
    case "moments": {
      const key = targetKey(question.makes, question.field);
      return question.fits.length === 0 ? (
        <p>
          {capital(plural(question.texts.length, "value", "values"))} of <b>{question.column}</b> can be read in no form: <code>{someOf(question.texts)}</code>.
          Say below what they mean, or their rows are refused.
        </p>
      ) : (
        <Radio.Group
          size="xs"
          label={
            <>
              How are the dates of <b>{question.column}</b> written?
            </>
          }
          value={nothingChosen}
          onChange={(form) => {
            const fit = question.fits.find((one) => one.form === form);
            onChange(
              changeField(profile, question.table, key, (source) => ({
                ...source,
                moment: {
                  ...source.moment,
                  forms: [...(source.moment?.forms ?? []), ...(fit ? [fit.form] : [])],
                  ...(fit?.pivot !== undefined && { pivot: fit.pivot }),
                },
              })),
            );
          }}
        >
          {question.fits.map(({ form, examples }) => (
            <Radio
              key={form}
              size="xs"
              mt={10}
              value={form}
              label={
                <>
                  {momentFormWords[form]}: <span className={sheet.sub}>{examples.map(({ text, reads }) => `${text} is ${reads}`).join("; ")}</span>
                </>
              }
            />
          ))}
        </Radio.Group>
      );
    }
    case "midnight": {
      const key = targetKey(question.makes, question.field);
      return (
        <Radio.Group
          size="xs"
          label={
            <>
              What does midnight in <b>{question.column}</b> mean (<code>{someOf(question.texts)}</code>)?
            </>
          }
          value={nothingChosen}
          onChange={(value) =>
            onChange(
              changeField(profile, question.table, key, (source) => ({
                ...source,
                moment: { ...source.moment, forms: source.moment?.forms ?? [], midnight: value === "date" ? "date" : "instant" },
              })),
            )
          }
        >
          <Radio size="xs" mt={10} value="date" label="the date: access lasts to the end of that day" />
          <Radio size="xs" mt={10} value="instant" label="the instant: access ends as that day begins" />
        </Radio.Group>
      );
    }
    case "backwards": {
      const key = targetKey(question.makes, question.field);
      const say = (backwards: "overnight" | "never") =>
        onChange(changeField(profile, question.table, key, (source) => ({ ...source, hours: { ...source.hours, backwards } })));
      return (
        <Radio.Group
          size="xs"
          label={
            <>
              What do hours that end before they begin mean (<code>{someOf(question.texts)}</code>)?
            </>
          }
          value={nothingChosen}
          onChange={(value) => say(value === "never" ? "never" : "overnight")}
        >
          <Radio size="xs" mt={10} value="overnight" label="over midnight, into the next day" />
          <Radio size="xs" mt={10} value="never" label="never: this is how the source writes a closed day" />
        </Radio.Group>
      );
    }
    case "names": {
      const words = (listWords[question.list] ?? question.list).toLowerCase();
      return (
        <>
          <p>
            {capital(plural(question.names.length, "name", "names"))} of {words} {question.names.length === 1 ? "is" : "are"} in cells, and nothing brings{" "}
            {question.names.length === 1 ? "it" : "them"}:{" "}
            {question.names
              .slice(0, namesShown)
              .map(({ text }) => text)
              .join(", ")}
            {question.names.length > namesShown && ", …"}.
          </p>
          <Checkbox
            size="xs"
            checked={false}
            label={
              question.list === "schedules"
                ? "Make them from their names; they open always until something brings their hours"
                : `Make these ${words} from their names`
            }
            onChange={() => onChange(makeFromNames(profile, question.list, {}))}
          />
        </>
      );
    }
  }
}

const tableOfQuestion = (question: Question): string => ("table" in question ? question.table : "");

/** Everything that has to be said before all of a source can be read. */
export function Questions({ questions, severalTables, ...rest }: QuestionsProps) {
  if (questions.length === 0) return null;
  return (
    <section className={classes.questions} aria-label="What has to be said">
      <h2 className={classes.section}>{capital(plural(questions.length, "thing has", "things have"))} to be said before all of it can be read</h2>
      {questions.map((question) => (
        <div key={JSON.stringify(question).slice(0, 400)} className={classes.question}>
          {severalTables && <div className={sheet.sub}>{tableOfQuestion(question)}</div>}
          <OneQuestion question={question} {...rest} />
        </div>
      ))}
    </section>
  );
}
