"use client";

import Link from "next/link";
import { useMemo } from "react";
import type { RuleKey } from "@/core/findings/proofs";
import type { FindingTrends } from "@/operations/findings/finding-trends";
import { Chart } from "@/ui/chart";
import { ChartTable } from "@/ui/chart-table";
import { Heading, Sheet } from "@/ui/sheet";
import { nothingAsked, QuestionLine } from "../inquiry/question-line";
import { titleOfRule } from "../words/findings";
import { findingsHref } from "./findings-address";

const drawn = 12;

/** How findings went over the snapshots, what they are of at present, and of how many it could be told. */
export function TrendsView({ trends }: { readonly trends: FindingTrends }) {
  const { snapshots, byRule, byArea, told } = trends;
  const charts = useMemo(() => {
    const at = snapshots.map(({ id, asOf }) => `${id}, ${asOf.slice(0, 10)}`);
    const most = byRule.slice(0, drawn);
    return {
      overTime: [
        { type: "scatter", mode: "lines+markers", name: "all", x: at, y: snapshots.map(({ total }) => total) },
        { type: "bar", name: "new or back", x: at, y: snapshots.map(({ fresh }) => fresh), width: 0.3 },
      ],
      rules: [{ type: "bar", orientation: "h", y: most.map(({ rule }) => titleOfRule(rule)).reverse(), x: most.map(({ now }) => now).reverse() }],
      areas: [
        {
          type: "bar",
          orientation: "h",
          y: byArea
            .slice(0, drawn)
            .map(({ name }) => name)
            .reverse(),
          x: byArea
            .slice(0, drawn)
            .map(({ findings }) => findings)
            .reverse(),
        },
      ],
      told: [
        {
          type: "bar",
          orientation: "h",
          name: "could not be told",
          y: told.map(({ rule }) => titleOfRule(rule)).reverse(),
          x: told.map(({ cannot }) => cannot).reverse(),
        },
      ],
    };
  }, [snapshots, byRule, byArea, told]);
  const rows = (count: number): number => 60 + 26 * Math.min(drawn, Math.max(2, count));
  return (
    <Sheet question={<QuestionLine asked={nothingAsked} />}>
      <Heading
        result="Findings over time"
        reference={<Link href="/findings">Findings</Link>}
        lead="Each snapshot as it was judged in its time, with the events and settings of then; waived findings are counted too."
      />
      <div style={{ display: "grid", gridTemplateColumns: "repeat(2, minmax(0, 1fr))", gap: "0 40px" }}>
        <Chart
          title="All findings, by snapshot and the date of its export"
          data={charts.overTime}
          height={rows(byRule.length)}
          layout={{ xaxis: { type: "category" } }}
        >
          <ChartTable
            head={["Snapshot", "All", "New or back", "Gone since"]}
            rows={snapshots.map(({ id, asOf, total, fresh, gone }) => [
              <Link key={id} href={findingsHref({ past: id })}>
                {`${id}, ${asOf.slice(0, 10)}`}
              </Link>,
              total,
              fresh,
              gone,
            ])}
          />
        </Chart>
        <Chart title="By rule, at present" data={charts.rules} height={rows(byRule.length)} layout={{ margin: { l: 250, r: 12, t: 8, b: 36 } }}>
          <ChartTable
            head={["Rule", ...snapshots.map(({ id }) => String(id))]}
            rows={byRule.map(({ rule, counts }: { readonly rule: RuleKey; readonly counts: readonly number[] }) => [
              <Link key={rule} href={findingsHref({ rule })}>
                {titleOfRule(rule)}
              </Link>,
              ...counts,
            ])}
          />
        </Chart>
        <Chart title="By area, at present" data={charts.areas} height={rows(byArea.length)} layout={{ margin: { l: 150, r: 12, t: 8, b: 36 } }}>
          <ChartTable
            head={["Area", "Findings", "Greatest risk"]}
            rows={byArea.map(({ key, name, findings, risk }) => [
              <Link key={key} href={findingsHref({ by: "area", key })}>
                {name}
              </Link>,
              findings,
              risk,
            ])}
          />
        </Chart>
        <Chart
          title="Subjects of which it could not be told, at present"
          data={charts.told}
          height={rows(told.length)}
          layout={{ margin: { l: 250, r: 12, t: 8, b: 36 } }}
        >
          <ChartTable head={["Rule", "Could not be told", "Found"]} rows={told.map(({ rule, cannot, found }) => [titleOfRule(rule), cannot, found])} />
        </Chart>
      </div>
    </Sheet>
  );
}
