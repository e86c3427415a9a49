"use client";

import { Button, NumberInput } from "@mantine/core";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useState } from "react";
import type { RuleSettings } from "@/core/findings/settings";
import type { ConfirmOutcome, KeepOutcome, RefusedSettings, SettingsEffect, SettingsSheet } from "@/operations/findings/rule-settings";
import { Heading, Sheet } from "@/ui/sheet";
import sheet from "@/ui/sheet.module.css";
import { useAction } from "@/ui/use-action";
import { nothingAsked, QuestionLine } from "../inquiry/question-line";
import { RecordLink } from "../evidence/record-link";
import { TaskProgress } from "../shell/task-progress";
import { sentenceOfFinding } from "../words/finding-names";
import { beyondWords, titleOfRule } from "../words/findings";
import { capital, listWords, plural } from "../words/numbers";
import { clockText } from "../words/times";
import type { ShownRule } from "./rules-view";
import { changedPlaces, withParameter } from "./change-settings";
import { Duties, Formats, Sites, Ways } from "./settings-of-register";
import { RiskWeights, Rules } from "./settings-sections";
import classes from "./findings.module.css";

export interface SettingsActions {
  readonly preview: (text: string, task: string) => Promise<SettingsEffect | RefusedSettings | undefined>;
  readonly keep: (
    asked: { readonly text: string; readonly secondPersonFrom: number; readonly instead: number },
    task: string,
  ) => Promise<KeepOutcome | { readonly outcome: "proposed" } | undefined>;
  readonly confirm: (task: string) => Promise<ConfirmOutcome | undefined>;
  readonly drop: () => Promise<boolean>;
}

interface ViewProps {
  readonly shown: SettingsSheet;
  /** What each rule has of its own. */
  readonly rules: readonly Omit<ShownRule, "found">[];
  readonly timeZone: string;
  readonly mayEdit: boolean;
  readonly actions: SettingsActions;
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
          ? `No ${effect.beyond.length > 0 ? "other " : ""}finding would come or go`
          : `${capital(plural(effect.comeCount, "finding", "findings"))} would come, ${effect.goneCount === 0 ? "none would go" : plural(effect.goneCount, "would go", "would go")}`}
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
      {effect.beyond.map((count) => (
        <p key={count.rule}>{beyondWords(count)}</p>
      ))}
      {list("Would come", effect.come, effect.comeCount)}
      {list("Would go", effect.gone, effect.goneCount)}
    </div>
  );
}

const notConfirmed = {
  "changed-meanwhile": "Others were put in force meanwhile; this proposal is over. Load the page again.",
  "same-person": "That has to be somebody else than who proposes it.",
  "nothing-proposed": "Nothing is proposed any more. Load the page again.",
} as const;

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
  const confirm = (): void =>
    work(async (number) => {
      const done = await actions.confirm(number);
      if (!done) return "Stopped. Load the page again and look whether it was confirmed.";
      if (done.outcome === "refused") setErrors(done.errors);
      else if (done.outcome !== "kept") return notConfirmed[done.outcome];
      else {
        setSaid("In force; the findings of the present register were looked for anew.");
        setEffect(undefined);
        router.refresh();
      }
      return undefined;
    });
  const seeProposed = (): void =>
    work(async (number) => {
      const done = shown.proposed && (await actions.preview(JSON.stringify(shown.proposed.settings), number));
      if (!done) return "Stopped; nothing was changed.";
      if (done.outcome === "refused") setErrors(done.errors);
      else setEffect(done);
      return undefined;
    });
  const drop = (): void =>
    run(async () => {
      await actions.drop();
      setEffect(undefined);
      router.refresh();
    });
  const keep = (): void =>
    work(async (number) => {
      const done = await actions.keep({ text: JSON.stringify(settings), secondPersonFrom, instead: shown.version }, number);
      if (!done) return "Stopped. Load the page again and look whether it was kept.";
      if (done.outcome === "refused") setErrors(done.errors);
      else if (done.outcome === "changed-meanwhile") return "Somebody else changed them meanwhile. Load the page again; what you set is lost then.";
      else {
        setSaid("Proposed. A second reviewer or an administrator has to confirm it; until then all is judged as before.");
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
          {shown.proposed && (
            <div className={sheet.must}>
              <b>Waits for a second person</b>
              <p>
                {shown.proposed.madeBy} proposes to change {listWords(changedPlaces(shown, shown.proposed))}, {clockText(shown.proposed.madeAt)}.
              </p>
              {mayEdit && (
                <div className={classes.buttons}>
                  {!shown.proposed.isOwn && (
                    <>
                      <Button size="xs" variant={effect ? "default" : "filled"} loading={busy} onClick={seeProposed}>
                        See what that would do
                      </Button>
                      <Button size="xs" variant={effect ? "filled" : "default"} disabled={busy} onClick={confirm}>
                        Confirm it
                      </Button>
                    </>
                  )}
                  <Button size="xs" variant="default" disabled={busy} onClick={drop}>
                    {shown.proposed.isOwn ? "Take it back" : "Refuse it"}
                  </Button>
                </div>
              )}
            </div>
          )}
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
                Propose it
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
            <Link href="/findings/rules">The rules</Link> · <Link href="/findings">Findings</Link> · <RecordLink of={{ on: ["rules"] }} />
          </>
        }
        lead="An empty figure is as usual. Every change is recorded, and shows which findings would come and go before it is proposed; a second person puts it in force."
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
      <Ways shown={shown} settings={settings} set={set} mayEdit={mayEdit} />
      <Duties shown={shown} settings={settings} set={set} mayEdit={mayEdit} />
      <Formats settings={settings} set={set} mayEdit={mayEdit} />
      <RiskWeights settings={settings} set={set} mayEdit={mayEdit} />
      <Rules rules={rules} settings={settings} set={set} mayEdit={mayEdit} />
    </Sheet>
  );
}
