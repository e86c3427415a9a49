"use client";

import { Button, NumberInput, Select, TextInput, UnstyledButton } from "@mantine/core";
import Link from "next/link";
import { useState } from "react";
import type { RuleKey } from "@/core/findings/proofs";
import type { Duty, DutySide, RuleSettings, SiteSettings } from "@/core/findings/settings";
import type { SettingsSheet } from "@/operations/findings/rule-settings";
import sheet from "@/ui/sheet.module.css";
import { titleOfRule } from "../words/findings";
import { capital } from "../words/numbers";
import { ruleGroups } from "../words/rules";
import type { ShownRule } from "./rules-view";

/** What a part of the settings shows and sets. */
interface SectionProps {
  readonly settings: RuleSettings;
  readonly set: (next: RuleSettings) => void;
  readonly mayEdit: boolean;
}

const parameterWords = (name: string): string => name.replace(/[A-Z]/g, (letter) => ` ${letter.toLowerCase()}`);

/** An object without a key that holds nothing. */
function without<T extends object>(of: T | undefined, key: string): T | undefined {
  const left = Object.fromEntries(Object.entries(of ?? {}).filter(([name]) => name !== key)) as T;
  return Object.keys(left).length === 0 ? undefined : left;
}

/** Settings with one parameter of a rule set, or left as it usually is. */
export function withParameter(settings: RuleSettings, rule: string, name: string, value: number | undefined): RuleSettings {
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

/** What in the register settings choose from, as the choices of a field. */
const choicesOf = (named: readonly { readonly id: string; readonly name: string }[]) => named.map(({ id, name }) => ({ value: id, label: name }));

export function Sites({ shown, settings, set, mayEdit }: SectionProps & { readonly shown: SettingsSheet }) {
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

export function Duties({ shown, settings, set, mayEdit }: SectionProps & { readonly shown: SettingsSheet }) {
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
