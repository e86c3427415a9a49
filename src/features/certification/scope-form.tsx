"use client";

import { MultiSelect, Select } from "@mantine/core";
import { useRouter } from "next/navigation";
import { useTransition } from "react";
import type { RoundScope } from "@/core/certification/round-terms";
import type { ScopeChoice, ScopeChoices } from "@/operations/certification/preview-round";
import classes from "./certification.module.css";
import type { AskedRound } from "./round-address";
import { newRoundAddress } from "./round-address";

const counted = (lines: number): string => lines.toLocaleString("en-GB");

const options = (choices: readonly ScopeChoice[]) => choices.map(({ value, name, lines }) => ({ value, label: `${name} (${counted(lines)})` }));

/** What a round covers and who certifies it, beside each choice how many lines it has; each choice has an address of its own. */
export function ScopeForm({ asked, choices, all }: { readonly asked: AskedRound; readonly choices: ScopeChoices; readonly all: number }) {
  const router = useRouter();
  const [busy, start] = useTransition();
  const { scope, by } = asked;
  const go = (next: AskedRound): void => start(() => router.push(newRoundAddress(next)));
  const narrow = (to: Partial<RoundScope>): void => go({ scope: { ...scope, ...to }, by });
  const several = (label: string, key: "sites" | "areas" | "departments" | "types", of: readonly ScopeChoice[]) =>
    of.length < 2 && !scope[key] ? undefined : (
      <MultiSelect
        label={label}
        placeholder={scope[key] ? "" : "all"}
        data={options(of)}
        value={[...(scope[key] ?? [])]}
        onChange={(ids) => narrow({ [key]: ids.length === 0 ? undefined : ids })}
        searchable
        clearable
        disabled={busy}
      />
    );
  return (
    <div className={classes.scope} role="group" aria-label="What the round covers">
      <Select
        label="Which lines"
        data={[
          { value: "all", label: `All (${counted(all)})` },
          { value: "findings", label: `With something against them (${counted(choices.findings)})` },
          { value: "changed", label: `Changed since the last round (${counted(choices.changed)})` },
        ]}
        value={scope.only ?? "all"}
        onChange={(only) => narrow({ only: only === "findings" || only === "changed" ? only : undefined })}
        allowDeselect={false}
        disabled={busy}
      />
      <Select
        label="Certified by"
        data={[
          { value: "manager", label: "the cardholder’s manager" },
          { value: "owner", label: "the area’s owner" },
          { value: "both", label: "both; withdrawing wins" },
        ]}
        value={by}
        onChange={(who) => go({ scope, by: who ?? "manager" })}
        allowDeselect={false}
        disabled={busy}
      />
      <Select
        label="Definitions"
        data={[
          { value: "none", label: "not certified" },
          { value: "too", label: `too, by the areas’ owners (${counted(choices.definitions)})` },
          { value: "only", label: `nothing else (${counted(choices.definitions)})` },
        ]}
        value={scope.definitions ?? "none"}
        onChange={(which) => narrow({ definitions: which === "too" || which === "only" ? which : undefined })}
        allowDeselect={false}
        disabled={busy}
      />
      <Select
        label="Sensitivity"
        data={[{ value: "0", label: "any" }, ...choices.sensitivity.map(({ value, lines }) => ({ value, label: `${value} or more (${counted(lines)})` }))]}
        value={String(scope.sensitivity ?? 0)}
        onChange={(from) => narrow({ sensitivity: from === null || from === "0" ? undefined : Number(from) })}
        allowDeselect={false}
        disabled={busy}
      />
      {several("Sites", "sites", choices.sites)}
      {several("Areas, with those below", "areas", choices.areas)}
      {several("Departments, with those below", "departments", choices.departments)}
      {several("Types", "types", choices.types)}
    </div>
  );
}
