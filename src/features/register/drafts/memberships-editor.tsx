"use client";

import { UnstyledButton } from "@mantine/core";
import { MomentInput } from "./moment-input";
import { useState } from "react";
import type { MembershipRow } from "@/operations/register/drafts/edit-object";
import sheet from "@/ui/sheet.module.css";
import classes from "./drafts.module.css";
import { ReferenceField } from "./reference-field";

/** A membership as it is being edited; without a key it is a new one. */
export interface EditedMembership {
  readonly key: string | undefined;
  readonly name: string;
  readonly other: string;
  readonly from: string;
  readonly until: string;
  readonly seen: number;
  readonly removed: boolean;
}

export const asEdited = (rows: readonly MembershipRow[]): EditedMembership[] =>
  rows.map(({ key, name, other, from, until, seen }) => ({ key, name, other, from: from ?? "", until: until ?? "", seen, removed: false }));

interface MembershipsProps {
  /** The zone on whose clock moments are shown and typed. */
  readonly timeZone: string;
  readonly draft: number;
  /** What is listed: the members of a group, or the groups of a person. */
  readonly of: "group" | "cardholder";
  readonly rows: readonly EditedMembership[];
  readonly total: number;
  readonly onChange: (rows: readonly EditedMembership[]) => void;
}

/** Who is in a group, or in which groups somebody is, and from when until when. */
export function MembershipsEditor({ draft, timeZone, of, rows, total, onChange }: MembershipsProps) {
  const [count, setCount] = useState(0);
  const kind = of === "group" ? "cardholder" : "group";
  const put = (at: number, change: Partial<EditedMembership>): void => onChange(rows.map((row, i) => (i === at ? { ...row, ...change } : row)));
  return (
    <section className={classes.wideField}>
      <h2 style={{ fontSize: 16, margin: "10px 0 4px" }}>{of === "group" ? "Members of its own" : "Groups besides the department"}</h2>
      {rows.length > 0 && (
        <div className={classes.member} style={{ color: "var(--ink-3)", fontSize: 12.5 }}>
          <span>{of === "group" ? "Who" : "Group"}</span>
          <span>From</span>
          <span>Until</span>
          <span />
        </div>
      )}
      {rows.map((row, at) => (
        <div key={row.key ?? `new ${row.other}`} className={classes.member}>
          <span>
            {row.removed ? <del className={classes.gone}>{row.name}</del> : row.name} {row.key === undefined && <span className={sheet.sub}>new</span>}
          </span>
          <MomentInput
            timeZone={timeZone}
            size="xs"
            aria-label={`${row.name} from`}
            placeholder="since always"
            value={row.from}
            disabled={row.removed}
            onText={(from) => put(at, { from })}
          />
          <MomentInput
            timeZone={timeZone}
            size="xs"
            aria-label={`${row.name} until`}
            placeholder="never ends"
            value={row.until}
            disabled={row.removed}
            onText={(until) => put(at, { until })}
          />
          <UnstyledButton
            className={sheet.plain}
            onClick={() => (row.key === undefined ? onChange(rows.filter((_, i) => i !== at)) : put(at, { removed: !row.removed }))}
            aria-label={row.removed ? `Keep ${row.name}` : `Take ${row.name} out`}
          >
            {row.removed ? "Keep" : "Take out"}
          </UnstyledButton>
        </div>
      ))}
      {total > rows.length && (
        <p className={sheet.sub}>
          and {(total - rows.filter(({ key }) => key !== undefined).length).toLocaleString("en-GB")} more, who are changed from their own pages
        </p>
      )}
      <div style={{ width: 300, marginTop: 8 }}>
        <ReferenceField
          key={count}
          draft={draft}
          kinds={[kind]}
          label={of === "group" ? "Add a member" : "Add a group"}
          nameOf={(_kind, id) => id}
          onNamed={(_kind, other, name) => onChange([...rows, { key: undefined, name, other, from: "", until: "", seen: 0, removed: false }])}
          value={undefined}
          onChange={() => setCount(count + 1)}
        />
      </div>
    </section>
  );
}
