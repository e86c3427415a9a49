"use client";

import { Button, NumberInput, Select, TextInput, UnstyledButton } from "@mantine/core";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useState } from "react";
import type { RuleKey } from "@/core/findings/proofs";
import type { Duty, DutySide, RuleSettings, SiteSettings } from "@/core/findings/settings";
import type { KeepOutcome, RefusedSettings, SettingsEffect, SettingsSheet } from "@/operations/findings/rule-settings";
import { Heading, Sheet } from "@/ui/sheet";
import sheet from "@/ui/sheet.module.css";
import { useAction } from "@/ui/use-action";
import { nothingAsked, QuestionLine } from "../inquiry/question-line";
import { TaskProgress } from "../shell/task-progress";
import { sentenceOfFinding } from "../words/finding-names";
import { titleOfRule } from "../words/findings";
import { capital, plural } from "../words/numbers";
import { ruleGroups } from "../words/rules";
import type { ShownRule } from "./rules-view";
import classes from "./findings.module.css";

export interface SettingsActions {
  readonly preview: (text: string, task: string) => Promise<SettingsEffect | RefusedSettings | undefined>;
  readonly keep: (
    asked: { readonly text: string; readonly secondPersonFrom: number; readonly instead: number },
    task: string,
  ) => Promise<KeepOutcome | undefined>;
}

interface ViewProps {
  readonly shown: SettingsSheet;
  /** What each rule has of its own. */
  readonly rules: readonly Omit<ShownRule, "found">[];
  readonly timeZone: string;
  readonly mayEdit: boolean;
  readonly actions: SettingsActions;
}

const parameterWords = (name: string): string => name.replace(/[A-Z]/g, (letter) => ` ${letter.toLowerCase()}`);

/** An object without a key that holds nothing. */
function without<T extends object>(of: T | undefined, key: string): T | undefined {
  const left = Object.fromEntries(Object.entries(of ?? {}).filter(([name]) => name !== key)) as T;
  return Object.keys(left).length === 0 ? undefined : left;
}

/** Settings with one parameter of a rule set, or left as it usually is. */
function withParameter(settings: RuleSettings, rule: string, name: string, value: number | undefined): RuleSettings {
  const own = value === undefined ? without(settings.parameters?.[rule], name) : { ...settings.parameters?.[rule], [name]: value };
  const parameters = own ? { ...settings.parameters, [rule]: own } : without(settings.parameters, rule);
  const { parameters: _, ...rest } = settings;
  return parameters ? { ...rest, parameters } : rest;
}

function withBase(settings: RuleSettings, rule: string, value: number | undefined): RuleSettings {
  const base = value === undefined ? without(settings.weights?.base, rule) : { ...settings.weights?.base, [rule]: value };
  const { base: _, ...others } = settings.weights ?? {};
  const { weights: __, ...rest } = settings;
  const weights = base ? { ...others, base } : others;
  return Object.keys(weights).length === 0 ? rest : { ...rest, weights };
}

function withSite(settings: RuleSettings, site: string, change: SiteSettings | undefined): RuleSettings {
  const sites = change && Object.keys(change).length > 0 ? { ...settings.sites, [site]: change } : without(settings.sites, site);
  const { sites: _, ...rest } = settings;
  return sites ? { ...rest, sites } : rest;
}

const withDuties = ({ duties: _, ...rest }: RuleSettings, duties: readonly Duty[]): RuleSettings => (duties.length === 0 ? rest : { ...rest, duties });

function Figure({
  label,
  value,
  usual,
  disabled,
  onChange,
}: {
  readonly label: string;
  readonly value: number | undefined;
  readonly usual: number;
  readonly disabled: boolean;
  readonly onChange: (value: number | undefined) => void;
}) {
  return (
    <NumberInput
      size="xs"
      w={112}
      min={0}
      allowDecimal={false}
      hideControls
      label={label}
      disabled={disabled}
      placeholder={String(usual)}
      value={value ?? ""}
      styles={value === undefined ? {} : { input: { borderColor: "var(--accent)", fontWeight: 600 } }}
      onChange={(next) => onChange(typeof next === "number" ? next : undefined)}
    />
  );
}

function Rules({
  rules,
  settings,
  set,
  mayEdit,
}: Pick<ViewProps, "rules" | "mayEdit"> & { readonly settings: RuleSettings; readonly set: (next: RuleSettings) => void }) {
  const byKey = new Map(rules.map((rule) => [rule.key, rule]));
  return ruleGroups.map(({ title, rules: keys }) => (
    <section key={title} style={{ marginBottom: 18 }}>
      <h2>{title}</h2>
      <table className={sheet.table}>
        <tbody>
          {keys.map((key: RuleKey) => {
            const rule = byKey.get(key);
            if (!rule) return null;
            return (
              <tr key={key}>
                <td style={{ width: "38%" }}>
                  <Link href={`/findings/rules?rule=${key}`}>{titleOfRule(key)}</Link>
                </td>
                <td>
                  <div style={{ display: "flex", flexWrap: "wrap", gap: 8 }}>
                    <Figure
                      label="Base of risk"
                      disabled={!mayEdit}
                      usual={rule.base}
                      value={settings.weights?.base?.[key]}
                      onChange={(value) => set(withBase(settings, key, value))}
                    />
                    {Object.entries(rule.parameters).map(([name, usual]) => (
                      <Figure
                        key={name}
                        label={capital(parameterWords(name))}
                        disabled={!mayEdit}
                        usual={usual}
                        value={settings.parameters?.[key]?.[name]}
                        onChange={(value) => set(withParameter(settings, key, name, value))}
                      />
                    ))}
                  </div>
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </section>
  ));
}

/** What in the register settings choose from, as the choices of a field. */
const choicesOf = (named: readonly { readonly id: string; readonly name: string }[]) => named.map(({ id, name }) => ({ value: id, label: name }));

function Sites({
  shown,
  settings,
  set,
  mayEdit,
}: Pick<ViewProps, "shown" | "mayEdit"> & { readonly settings: RuleSettings; readonly set: (next: RuleSettings) => void }) {
  return (
    <section style={{ marginBottom: 18 }}>
      <h2>Sites</h2>
      <p className={sheet.sub}>
        Of a country it is known which public holidays it has. Business hours are Monday to Friday from 7 to 19, but on public holidays, unless a schedule is
        taken for them; a change of the schedule later does not change them.
      </p>
      <table className={sheet.table}>
        <tbody>
          {shown.sites.map(({ id, name }) => {
            const site = settings.sites?.[id] ?? {};
            const { country: _, ...withoutCountry } = site;
            const { business: __, ...withoutBusiness } = site;
            const taken = shown.schedules.find(({ rows }) => JSON.stringify(rows) === JSON.stringify(site.business));
            return (
              <tr key={id}>
                <td style={{ width: "38%" }}>{name}</td>
                <td>
                  <div style={{ display: "flex", gap: 8 }}>
                    <TextInput
                      size="xs"
                      w={112}
                      label="Country"
                      placeholder="AT"
                      maxLength={2}
                      disabled={!mayEdit}
                      value={site.country ?? ""}
                      onChange={({ currentTarget: { value } }) =>
                        set(withSite(settings, id, value === "" ? withoutCountry : { ...withoutCountry, country: value.toUpperCase() }))
                      }
                    />
                    <Select
                      size="xs"
                      w={232}
                      label="Business hours are those of"
                      placeholder={site.business && !taken ? "hours of their own" : "Mon–Fri 07–19"}
                      clearable
                      searchable
                      disabled={!mayEdit}
                      value={taken?.id ?? null}
                      data={choicesOf(shown.schedules)}
                      onChange={(schedule) => {
                        const rows = shown.schedules.find((one) => one.id === schedule)?.rows;
                        set(withSite(settings, id, rows ? { ...withoutBusiness, business: rows } : withoutBusiness));
                      }}
                    />
                  </div>
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </section>
  );
}

const sideText = (side: DutySide): string => (side.area === undefined ? `level ${side.level}` : `area ${side.area}`);
const sideOf = (text: string): DutySide => (text.startsWith("area ") ? { area: text.slice(5) } : { level: text.slice(6) });

function Duties({
  shown,
  settings,
  set,
  mayEdit,
}: Pick<ViewProps, "shown" | "mayEdit"> & { readonly settings: RuleSettings; readonly set: (next: RuleSettings) => void }) {
  const [name, setName] = useState("");
  const [a, setA] = useState<string | null>(null);
  const [b, setB] = useState<string | null>(null);
  const duties = settings.duties ?? [];
  const sides = [
    { group: "Areas", items: shown.areas.map(({ id, name: label }) => ({ value: `area ${id}`, label })) },
    { group: "Levels", items: shown.levels.map(({ id, name: label }) => ({ value: `level ${id}`, label })) },
  ];
  const nameOf = (side: DutySide): string => sides.flatMap(({ items }) => items).find(({ value }) => value === sideText(side))?.label ?? sideText(side);
  const isTaken = duties.some(({ id }) => id === name.trim());
  return (
    <section style={{ marginBottom: 18 }}>
      <h2>Duties that nobody should have both of</h2>
      <table className={sheet.table}>
        <tbody>
          {duties.map((duty) => (
            <tr key={duty.id}>
              <td style={{ width: "38%" }}>{duty.name ?? duty.id}</td>
              <td>
                {nameOf(duty.a)} and {nameOf(duty.b)}
              </td>
              <td>
                {mayEdit && (
                  <UnstyledButton
                    className={sheet.plain}
                    onClick={() =>
                      set(
                        withDuties(
                          settings,
                          duties.filter(({ id }) => id !== duty.id),
                        ),
                      )
                    }
                  >
                    Leave out
                  </UnstyledButton>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {mayEdit && (
        <div style={{ display: "flex", gap: 8, alignItems: "end", marginTop: 8 }}>
          <TextInput
            size="xs"
            w={180}
            label="Called"
            error={isTaken && "There is one of this name."}
            value={name}
            onChange={(event) => setName(event.currentTarget.value)}
          />
          <Select size="xs" w={180} label="One side" searchable value={a} data={sides} onChange={setA} />
          <Select size="xs" w={180} label="The other side" searchable value={b} data={sides} onChange={setB} />
          <Button
            size="xs"
            variant="default"
            disabled={name.trim() === "" || isTaken || a === null || b === null}
            onClick={() => {
              if (a === null || b === null) return;
              set(withDuties(settings, [...duties, { id: name.trim(), a: sideOf(a), b: sideOf(b) }]));
              setName("");
              setA(null);
              setB(null);
            }}
          >
            Add the pair
          </Button>
        </div>
      )}
    </section>
  );
}

function Effect({ effect, timeZone }: { readonly effect: SettingsEffect; readonly timeZone: string }) {
  const list = (title: string, findings: SettingsEffect["come"], count: number) =>
    count > 0 && (
      <div className={sheet.notes}>
        <h2>
          {title} {count.toLocaleString("en-GB")}
        </h2>
        {findings.slice(0, 12).map((finding) => (
          <p key={finding.fingerprint} style={{ paddingLeft: 0 }}>
            {finding.about}: {sentenceOfFinding(finding, timeZone)}
          </p>
        ))}
        {count > 12 && <p style={{ paddingLeft: 0 }}>and {count - Math.min(12, findings.length)} more</p>}
      </div>
    );
  return (
    <div role="status">
      <p>
        {effect.comeCount + effect.goneCount === 0
          ? "No finding would come or go"
          : `${capital(plural(effect.comeCount, "finding", "findings"))} would come, ${plural(effect.goneCount, "would go", "would go")}`}
        {effect.weighed > 0 && `; ${plural(effect.weighed, "weighs", "weigh")} something else`}.
      </p>
      {effect.byRule.length > 0 && (
        <dl className={sheet.facts}>
          {effect.byRule.map(({ rule, come, gone }) => (
            <div key={rule} style={{ display: "contents" }}>
              <dt>{titleOfRule(rule)}</dt>
              <dd>
                {come > 0 && `+${come}`} {gone > 0 && `−${gone}`}
              </dd>
            </div>
          ))}
        </dl>
      )}
      {list("Would come", effect.come, effect.comeCount)}
      {list("Would go", effect.gone, effect.goneCount)}
    </div>
  );
}

/** How rules judge: every figure, the sites, the pairs of duties, with what a change would do before it is kept. */
export function SettingsView({ shown, rules, timeZone, mayEdit, actions }: ViewProps) {
  const router = useRouter();
  const [settings, setSettings] = useState(shown.settings);
  const [secondPersonFrom, setSecond] = useState(shown.secondPersonFrom);
  const [effect, setEffect] = useState<SettingsEffect>();
  const [errors, setErrors] = useState<readonly string[]>([]);
  const [task, setTask] = useState<string>();
  const [said, setSaid] = useState("");
  const { busy, refused, run } = useAction();
  const set = (next: RuleSettings): void => {
    setSettings(next);
    setEffect(undefined);
    setErrors([]);
    setSaid("");
  };
  const isChanged = JSON.stringify(settings) !== JSON.stringify(shown.settings);
  const isOther = isChanged || secondPersonFrom !== shown.secondPersonFrom;
  const work = (act: (number: string) => Promise<string | undefined>): void => {
    const number = crypto.randomUUID();
    setTask(number);
    setErrors([]);
    run(() => act(number));
  };
  const preview = (): void =>
    work(async (number) => {
      const done = await actions.preview(JSON.stringify(settings), number);
      if (!done) return "Stopped; nothing was changed.";
      if (done.outcome === "refused") setErrors(done.errors);
      else setEffect(done);
      return undefined;
    });
  const keep = (): void =>
    work(async (number) => {
      const done = await actions.keep({ text: JSON.stringify(settings), secondPersonFrom, instead: shown.version }, number);
      if (!done) return "Stopped. Load the page again and look whether it was kept.";
      if (done.outcome === "refused") setErrors(done.errors);
      else if (done.outcome === "changed-meanwhile") return "Somebody else changed them meanwhile. Load the page again; what you set is lost then.";
      else {
        setSaid("Kept; the findings of the present register were looked for anew.");
        setEffect(undefined);
        router.refresh();
      }
      return undefined;
    });
  return (
    <Sheet
      question={<QuestionLine asked={nothingAsked} />}
      margin={
        <>
          <h2>What a change would do</h2>
          {!mayEdit && <p className={sheet.sub}>Reviewers and administrators change these.</p>}
          {mayEdit && !isOther && <p className={sheet.sub}>{said === "" ? "Nothing is changed yet." : ""}</p>}
          <p role="status">{said}</p>
          {mayEdit && isOther && (
            <div className={classes.buttons}>
              {isChanged && (
                <Button size="xs" variant={effect ? "default" : "filled"} loading={busy} onClick={preview}>
                  See what it would do
                </Button>
              )}
              <Button size="xs" variant={effect || !isChanged ? "filled" : "default"} disabled={busy || (isChanged && !effect)} onClick={keep}>
                Keep it
              </Button>
              <Button
                size="xs"
                variant="default"
                disabled={busy}
                onClick={() => {
                  set(shown.settings);
                  setSecond(shown.secondPersonFrom);
                }}
              >
                Back to what is in force
              </Button>
            </div>
          )}
          {busy && task !== undefined && <TaskProgress at="/findings/task" task={task} name="Findings" />}
          {[...errors, ...(refused === undefined ? [] : [refused])].map((words) => (
            <p key={words} role="alert" className={sheet.grave}>
              {words}
            </p>
          ))}
          {effect && <Effect effect={effect} timeZone={timeZone} />}
          <p style={{ marginTop: 20 }}>
            <a href="/findings/settings/export">Those in force as a file</a>
          </p>
        </>
      }
    >
      <Heading
        result="How the rules judge"
        reference={
          <>
            <Link href="/findings/rules">The rules</Link> · <Link href="/findings">Findings</Link>
          </>
        }
        lead="An empty figure is as usual. Every change is recorded, and shows which findings would come and go before it is kept."
      />
      <section style={{ marginBottom: 18 }}>
        <h2>In general</h2>
        <div style={{ display: "flex", flexWrap: "wrap", gap: 8 }}>
          <NumberInput
            size="xs"
            w={232}
            min={0}
            max={101}
            allowDecimal={false}
            label="A second person confirms waivers from risk"
            disabled={!mayEdit}
            value={secondPersonFrom}
            onChange={(value) => {
              setSaid("");
              if (typeof value === "number") setSecond(value);
            }}
          />
          {(
            [
              ["gapDays", "Days between events that cover", 7],
              ["coveredPercent", "Percent of days to be covered", 90],
            ] as const
          ).map(([name, label, usual]) => (
            <NumberInput
              key={name}
              size="xs"
              w={200}
              min={0}
              allowDecimal={false}
              label={label}
              placeholder={String(usual)}
              disabled={!mayEdit}
              value={settings.parameters?.events?.[name] ?? ""}
              onChange={(value) => set(withParameter(settings, "events", name, typeof value === "number" ? value : undefined))}
            />
          ))}
        </div>
      </section>
      <Sites shown={shown} settings={settings} set={set} mayEdit={mayEdit} />
      <Duties shown={shown} settings={settings} set={set} mayEdit={mayEdit} />
      <Rules rules={rules} settings={settings} set={set} mayEdit={mayEdit} />
    </Sheet>
  );
}
