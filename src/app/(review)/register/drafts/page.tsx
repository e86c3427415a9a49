import { DraftsView } from "@/features/register/drafts/drafts-view";
import { may, nomade } from "@/wiring/nomade";
import { accountWith } from "@/wiring/web/web-session";
import { beginDraft } from "./actions";

interface Props {
  readonly searchParams: Promise<{ list?: string; key?: string }>;
}

export default async function DraftsPage({ searchParams }: Props) {
  const account = await accountWith("read-whole");
  const { list, key } = await searchParams;
  const change = list === undefined || key === undefined ? undefined : { list, key };
  const [drafts, snapshot] = [await nomade.listDrafts(account), await nomade.latestSnapshot()];
  return <DraftsView drafts={drafts} hasRegister={snapshot !== undefined} mayEdit={may(account, "edit-drafts")} change={change} begin={beginDraft} />;
}
