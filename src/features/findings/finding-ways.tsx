import Link from "next/link";
import type { Life } from "@/core/findings/life";
import type { RuleKey } from "@/core/findings/proofs";
import type { FindingsPage } from "@/operations/findings/list-findings";
import type { FindingGrouping } from "@/operations/ports/findings";
import sheet from "@/ui/sheet.module.css";
import { titleOfRule } from "../words/findings";
import { capital } from "../words/numbers";
import { findingsHref } from "./findings-address";
import type { FindingsAddress } from "./findings-address";
import classes from "./findings.module.css";

export const lifeNames: Readonly<Record<Life | "gone", string>> = { new: "New", still: "Still there", back: "Came back", gone: "Gone" };
export const groupNames: Readonly<Record<FindingGrouping, string>> = {
  rule: "rule",
  cardholder: "person",
  area: "area",
  manager: "manager",
  department: "department",
};
const nowhere: Readonly<Record<FindingGrouping, string>> = {
  rule: "",
  cardholder: "Nobody",
  area: "In no area",
  manager: "Nobody certifies them",
  department: "In no department",
};

export const groupTitle = (by: FindingGrouping, key: string, name: string): string =>
  key === "" ? nowhere[by] : by === "rule" ? titleOfRule(key as RuleKey) : name;

function Way({ isHere, href, children }: { readonly isHere: boolean; readonly href: string; readonly children: React.ReactNode }) {
  return isHere ? (
    <span className={sheet.current} aria-current="page">
      {children}
    </span>
  ) : (
    <Link href={href}>{children}</Link>
  );
}

/** What of the findings is listed, how they are put together, and where they can go. */
export function Ways({ asked, page: { counts } }: { readonly asked: FindingsAddress; readonly page: FindingsPage }) {
  const { past } = asked;
  const only = (narrowed: Partial<FindingsAddress>): string => findingsHref({ past, ...narrowed });
  const isPlain = asked.life === undefined && asked.waived === undefined && !asked.isMine;
  const count = (n: number) => <span className={sheet.count}>{n.toLocaleString("en-GB")}</span>;
  return (
    <nav aria-label="Findings">
      <div className={classes.ways}>
        <b>Listed</b>
        <Way isHere={isPlain && asked.rule === undefined && asked.by === undefined && asked.fingerprint === undefined} href={only({})}>
          All {count(counts.total)}
        </Way>
        {(["new", "back", "still"] as const).map((life) => (
          <Way key={life} isHere={asked.life === life} href={only({ life })}>
            {lifeNames[life]} {count(counts.byLife[life] ?? 0)}
          </Way>
        ))}
        <Way isHere={asked.life === "gone"} href={only({ life: "gone" })}>
          {lifeNames.gone} {count(counts.gone)}
        </Way>
        <Way isHere={asked.waived === "only"} href={only({ waived: "only" })}>
          Waived {count(counts.waived)}
        </Way>
        <Link href="/findings/house">House rules</Link>
        <Way isHere={!!asked.isMine} href={only({ isMine: true })}>
          My tasks
        </Way>
      </div>
      <div className={classes.ways}>
        <b>By</b>
        {(Object.keys(groupNames) as FindingGrouping[]).map((by) => (
          <Way
            key={by}
            isHere={asked.by === by && asked.key === undefined}
            href={findingsHref({ ...asked, by, key: undefined, from: undefined, fingerprint: undefined })}
          >
            {capital(groupNames[by])}
          </Way>
        ))}
        <span style={{ flex: 1 }} />
        <Link href="/findings/trends">Over time</Link>
        <Link href={asked.rule === undefined ? "/findings/rules" : `/findings/rules?rule=${asked.rule}`}>The rules</Link>
        <Link href="/findings/settings">How they judge</Link>
      </div>
    </nav>
  );
}

export function Groups({ asked, groups }: { readonly asked: FindingsAddress; readonly groups: NonNullable<FindingsPage["groups"]> }) {
  const by = asked.by ?? "rule";
  const most = Math.max(1, ...groups.map(({ findings }) => findings));
  return (
    <table className={sheet.table}>
      <thead>
        <tr>
          <th scope="col" className={sheet.number}>
            Risk
          </th>
          <th scope="col">{capital(groupNames[by])}</th>
          <th scope="col" className={sheet.number}>
            Findings
          </th>
          <th scope="col" style={{ width: "30%" }} aria-label="Drawn" />
        </tr>
      </thead>
      <tbody>
        {groups.map(({ key, name, findings, risk }) => (
          <tr key={key}>
            <td className={`${sheet.number} ${classes.risk}`}>{risk}</td>
            <td>
              <Link href={findingsHref({ ...asked, key })}>{groupTitle(by, key, name)}</Link>
            </td>
            <td className={sheet.number}>{findings.toLocaleString("en-GB")}</td>
            <td aria-hidden>
              <span className={classes.share} style={{ width: `${(100 * findings) / most}%` }} />
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
