"use client";

import { Button } from "@mantine/core";
import Link from "next/link";
import type { ManagerSheet } from "@/operations/findings/export-findings";
import sheet from "@/ui/sheet.module.css";
import { remedyOfFinding, sentenceOfFinding } from "../words/finding-names";
import { titleOfRule } from "../words/findings";
import { plural } from "../words/numbers";
import classes from "./print.module.css";

/** Findings on paper, a sheet a manager: what concerns their people. */
export function PrintView({
  sheets,
  timeZone,
  reference,
  back,
}: {
  readonly sheets: readonly ManagerSheet[];
  readonly timeZone: string;
  readonly reference: string;
  readonly back: string;
}) {
  return (
    <main className={classes.paper}>
      <div className={classes.bar}>
        <Button size="xs" onClick={() => window.print()}>
          Print
        </Button>
        <Link href={back}>Back to the findings</Link>
        <span className={sheet.sub}>{plural(sheets.length, "sheet", "sheets")}; each begins a page.</span>
      </div>
      {sheets.map(({ manager, name, total, findings }) => (
        <section key={manager} className={classes.sheet}>
          <h1>{manager === "" ? "Of people whom nobody certifies, and of what is nobody’s" : `For ${name}`}</h1>
          <p className={sheet.sub}>
            {reference}. {plural(total, "finding", "findings")}
            {findings.length < total && `, of which the riskiest ${findings.length} are here`}.
          </p>
          <table className={sheet.table}>
            <thead>
              <tr>
                <th scope="col">Risk</th>
                <th scope="col">Who or what</th>
                <th scope="col">What should not be</th>
                <th scope="col">To end it</th>
              </tr>
            </thead>
            <tbody>
              {findings.map((finding) => (
                <tr key={finding.fingerprint}>
                  <td>{finding.risk}</td>
                  <td>
                    {finding.about}
                    {finding.card !== undefined && <div className={sheet.sub}>{finding.card}</div>}
                  </td>
                  <td className={sheet.words}>
                    {sentenceOfFinding(finding, timeZone)}
                    <div className={sheet.sub}>{titleOfRule(finding.rule)}</div>
                  </td>
                  <td>{remedyOfFinding(finding, timeZone)}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </section>
      ))}
    </main>
  );
}
