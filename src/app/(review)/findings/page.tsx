import { notFound } from "next/navigation";
import { isRuleKey } from "@/core/findings/finding";
import { FindingsView } from "@/features/findings/findings-view";
import { NoRegister } from "@/features/shell/no-register";
import { notRead } from "@/features/words/not-read";
import { asking, may, nomade } from "@/wiring/nomade";
import { accountWith } from "@/wiring/web/web-session";

interface Props {
  readonly searchParams: Promise<{ rule?: string; snapshot?: string }>;
}

export default async function FindingsPage({ searchParams }: Props) {
  const account = await accountWith("read-findings");
  const asked = await searchParams;
  const rule = asked.rule !== undefined && isRuleKey(asked.rule) ? asked.rule : undefined;
  const number = Number(asked.snapshot);
  const past = Number.isInteger(number) && number > 0 ? number : undefined;
  const [snapshot, snapshots] = await Promise.all([nomade.snapshotWithFindings(account, past), nomade.snapshotChoices(account)]);
  const page = snapshot && (await asking.listFindings(account, snapshot.id, rule));
  if (!page) return past === undefined ? <NoRegister /> : notFound();
  return (
    <FindingsView
      key={`${rule ?? "all"} ${snapshot.id}`}
      findings={page.findings}
      timeZone={snapshot.timeZone}
      mayEdit={may(account, "edit-drafts")}
      counts={page.counts}
      rule={rule}
      past={past}
      reference={`${past === undefined ? "Findings" : "As they were, findings"} of snapshot ${snapshot.id}${notRead(snapshot)}`}
      snapshots={snapshots.map(({ id, takenAt }) => ({ id, takenAt }))}
    />
  );
}
