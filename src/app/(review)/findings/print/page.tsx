import { notFound } from "next/navigation";
import { findingsHref, findingsOfAddress } from "@/features/findings/findings-address";
import { PrintView } from "@/features/findings/print-view";
import { notRead } from "@/features/words/not-read";
import { asking, nomade } from "@/wiring/nomade";
import { accountWith } from "@/wiring/web/web-session";

interface Props {
  readonly searchParams: Promise<Record<string, string | string[] | undefined>>;
}

export default async function PrintPage({ searchParams }: Props) {
  const account = await accountWith("read-findings");
  const { asked } = findingsOfAddress(await searchParams);
  const { past, ...of } = asked;
  const snapshot = await nomade.snapshotWithFindings(account, past);
  const sheets = snapshot && (await asking.printFindings(account, snapshot.id, of));
  if (!sheets) notFound();
  return (
    <PrintView
      sheets={sheets}
      timeZone={snapshot.timeZone}
      reference={`Findings of snapshot ${snapshot.id}, as of ${snapshot.asOf.slice(0, 10)}${notRead(snapshot)}`}
      back={findingsHref(asked)}
    />
  );
}
