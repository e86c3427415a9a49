"use client";

import { NumberInput } from "@mantine/core";
import Link from "next/link";
import type { RuleKey } from "@/core/findings/proofs";
import { usualWeights } from "@/core/findings/settings";
import type { RuleSettings } from "@/core/findings/settings";
import sheet from "@/ui/sheet.module.css";
import { titleOfRule } from "../words/findings";
import { capital } from "../words/numbers";
import { ruleGroups } from "../words/rules/rule-words";
import { withBase, withParameter, withWeight } from "./change-settings";
import type { ShownRule } from "./rules-view";

/** What a part of the settings shows and sets. */
export interface SectionProps {
  readonly settings: RuleSettings;
  readonly set: (next: RuleSettings) => void;
  readonly mayEdit: boolean;
}

const parameterWords = (name: string): string => name.replace(/[A-Z]/g, (letter) => ` ${letter.toLowerCase()}`);

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

const weightWords: Readonly<Record<keyof typeof usualWeights, string>> = {
  sensitivity: "Sensitivity",
  outOfHours: "Out of hours",
  weeklyHours: "Hours a week",
  standing: "Standing for long",
};

/** How many points at most each term adds to the base of a rule. */
export function RiskWeights({ settings, set, mayEdit }: SectionProps) {
  return (
    <section style={{ marginBottom: 18 }}>
      <h2>What risk is made of</h2>
      <p className={sheet.sub}>Beside the base of its rule a finding gets up to so many points for each of these; a hundred is the most of all together.</p>
      <div style={{ display: "flex", flexWrap: "wrap", gap: 8 }}>
        {(Object.keys(weightWords) as (keyof typeof usualWeights)[]).map((name) => (
          <Figure
            key={name}
            label={weightWords[name]}
            disabled={!mayEdit}
            usual={usualWeights[name]}
            value={settings.weights?.[name]}
            onChange={(value) => set(withWeight(settings, name, value))}
          />
        ))}
      </div>
    </section>
  );
}

export function Rules({ rules, settings, set, mayEdit }: SectionProps & { readonly rules: readonly Omit<ShownRule, "found">[] }) {
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
