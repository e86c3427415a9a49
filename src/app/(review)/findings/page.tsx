import { notFound } from "next/navigation";
import { findingsOfAddress } from "@/features/findings/findings-address";
import { FindingsView } from "@/features/findings/findings-view";
import { NoRegister } from "@/features/shell/no-register";
import { notRead } from "@/features/words/not-read";
import { asking, may, nomade } from "@/wiring/nomade";
import { accountWith } from "@/wiring/web/web-session";
import { assignFinding, confirmWaiver, endWaiver, noteFinding, waiveFinding } from "./actions";

interface Props {
  readonly searchParams: Promise<Record<string, string | string[] | undefined>>;
}

const actions = { waive: waiveFinding, confirm: confirmWaiver, end: endWaiver, note: noteFinding, assign: assignFinding };

export default async function FindingsPage({ searchParams }: Props) {
  const account = await accountWith("read-findings");
  const query = await searchParams;
  const { asked, notUnderstood } = findingsOfAddress(query);
  const { past, ...of } = asked;
  const [snapshot, snapshots] = await Promise.all([nomade.snapshotWithFindings(account, past), nomade.snapshotChoices(account)]);
  const page = snapshot && (await asking.listFindings(account, snapshot.id, of));
  if (!page) return past === undefined ? <NoRegister /> : notFound();
  const mayTriage = past === undefined && may(account, "triage");
  return (
    <FindingsView
      key={JSON.stringify([asked, snapshot.id])}
      page={page}
      asked={asked}
      notUnderstood={notUnderstood}
      timeZone={snapshot.timeZone}
      mayEdit={may(account, "edit-drafts")}
      triage={
        mayTriage
          ? {
              snapshot: snapshot.id,
              signIn: account.signIn,
              assignees: await nomade.assignees(account),
              secondPersonFrom: await nomade.secondPersonFrom(account),
              actions,
            }
          : undefined
      }
      waiting={past === undefined ? await nomade.waitingWaivers(account) : []}
      reference={`${past === undefined ? "Findings" : "As they were, findings"} of snapshot ${snapshot.id}${notRead(snapshot)}`}
      snapshots={snapshots.map(({ id, takenAt }) => ({ id, takenAt }))}
    />
  );
}
