import { notFound } from "next/navigation";
import { PeopleBoardView } from "@/features/register/drafts/people-board";
import { asking } from "@/wiring/nomade";
import { accountWith } from "@/wiring/web/web-session";
import { movePeople } from "../../actions";

interface Props {
  readonly params: Promise<{ draft: string }>;
  readonly searchParams: Promise<{ in?: string | string[]; text?: string }>;
}

const columnsAtMost = 4;

export default async function PeoplePage({ params, searchParams }: Props) {
  const account = await accountWith("edit-drafts");
  const id = Number((await params).draft);
  const asked = await searchParams;
  const columns = (asked.in === undefined ? [] : [asked.in].flat()).slice(0, columnsAtMost);
  const text = (asked.text ?? "").slice(0, 200);
  const board = Number.isInteger(id) ? await asking.peopleBoard(account, id, columns, text) : undefined;
  if (!board) notFound();
  return <PeopleBoardView board={board} text={text} move={movePeople} />;
}
