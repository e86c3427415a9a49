import { EventsView } from "@/features/events/events-view";
import { eventsOfAddress } from "@/features/events/events-address";
import { NoRegister } from "@/features/shell/no-register";
import { asking, may, nomade } from "@/wiring/nomade";
import { accountWith } from "@/wiring/web/web-session";
import { beginDraft } from "../drafts/actions";

interface Props {
  readonly searchParams: Promise<Record<string, string | string[] | undefined>>;
}

export default async function EventsPage({ searchParams }: Props) {
  const account = await accountWith("read-whole");
  const { asked, columns, notUnderstood } = eventsOfAddress(await searchParams);
  const [page, snapshot] = await Promise.all([asking.listEvents(account, undefined, asked), nomade.latestSnapshot()]);
  if (!page || !snapshot) return <NoRegister />;
  if (asked.about) await nomade.noteLookUp(account, "events", asked.about);
  const begin = may(account, "edit-drafts") ? beginDraft : undefined;
  return (
    <EventsView
      key={JSON.stringify(asked)}
      page={page}
      asked={asked}
      columns={columns}
      notUnderstood={notUnderstood}
      timeZone={snapshot.timeZone}
      begin={begin}
    />
  );
}
