import { notFound } from "next/navigation";
import { linesOfAddress } from "@/features/certification/lines-address";
import { LinesView } from "@/features/certification/lines-view";
import { asking } from "@/wiring/nomade";
import { accountWith } from "@/wiring/web/web-session";

interface Props {
  readonly params: Promise<{ round: string }>;
  readonly searchParams: Promise<Record<string, string | string[] | undefined>>;
}

export default async function LinesPage({ params, searchParams }: Props) {
  const account = await accountWith("read-rounds");
  const [id, asked] = [Number((await params).round), linesOfAddress(await searchParams)];
  const listed = asked && Number.isInteger(id) ? await asking.listLines(account, id, asked.filter, asked.page - 1) : undefined;
  if (!asked || !listed) notFound();
  return <LinesView listed={listed} filter={asked.filter} page={asked.page} />;
}
