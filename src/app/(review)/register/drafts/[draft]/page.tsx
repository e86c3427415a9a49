import { notFound } from "next/navigation";
import { DraftView } from "@/features/register/drafts/draft-view";
import { asking } from "@/wiring/nomade";
import { accountWith } from "@/wiring/web/web-session";
import { addBox, changeDraft, closeDraft, dropDraft, movePeople, settleClash, shareDraft, takeBack, takeBackAll } from "../actions";

interface Props {
  readonly params: Promise<{ draft: string }>;
  readonly searchParams: Promise<{ all?: string }>;
}

export default async function DraftPage({ params, searchParams }: Props) {
  const account = await accountWith("read-whole");
  const id = Number((await params).draft);
  const draft = Number.isInteger(id) ? await asking.showDraft(account, id, (await searchParams).all !== undefined) : undefined;
  if (!draft) notFound();
  return (
    <DraftView
      sheet={draft}
      actions={{
        change: changeDraft,
        takeBack,
        takeBackAll,
        settle: settleClash,
        addBox,
        move: movePeople,
        share: shareDraft,
        drop: dropDraft,
        close: closeDraft,
      }}
    />
  );
}
