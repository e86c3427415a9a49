import { notFound } from "next/navigation";
import { DocketView } from "@/features/certification/docket-view";
import { asking, may } from "@/wiring/nomade";
import { docketLanguage } from "@/wiring/web/docket-language";
import { accountWith } from "@/wiring/web/web-session";
import { comment, load, save, sign, speak } from "./actions";

interface Props {
  readonly params: Promise<{ docket: string }>;
  readonly searchParams: Promise<{ line?: string | string[] }>;
}

export default async function DocketPage({ params, searchParams }: Props) {
  const account = await accountWith("see-dockets");
  const id = Number((await params).docket);
  const shown = Number.isInteger(id) ? await asking.showDocket(account, id) : undefined;
  if (!shown) notFound();
  const asOf = Math.floor(Date.parse(shown.snapshot.asOf) / 60_000);
  const language = await docketLanguage(account);
  const { line } = await searchParams;
  return (
    <DocketView
      key={String(line ?? "")}
      shown={shown}
      openAt={Number(line)}
      account={account.id}
      readsRecord={may(account, "read-record")}
      asOf={asOf}
      language={language}
      load={load}
      save={save}
      comment={comment}
      sign={sign}
      speak={speak}
    />
  );
}
