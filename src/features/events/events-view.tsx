"use client";

import { Button, Select, Switch, TextInput, UnstyledButton } from "@mantine/core";
import { DateInput } from "@mantine/dates";
import { useDebouncedCallback, useInterval } from "@mantine/hooks";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { Fragment, useState, useTransition } from "react";
import { formatCivilDay, parseCivilDay } from "@/core/time/civil-day";
import type { AskedEvents, EventsPage, ShownEvent } from "@/operations/events/list-events";
import { Heading, Sheet } from "@/ui/sheet";
import sheet from "@/ui/sheet.module.css";
import { useAction } from "@/ui/use-action";
import { useRowSelection } from "@/ui/use-row-selection";
import { nothingAsked, QuestionLine } from "../inquiry/question-line";
import { ColumnChoice } from "../register/column-choice";
import { objectHref } from "../register/list-address";
import { agreementMark, agreementWords } from "../words/events";
import { capital, listWords, plural, timesWords } from "../words/numbers";
import { unitReasonWords } from "../words/unit-reasons";
import { secondOnClock } from "../words/times";
import { eventColumns, eventsHref } from "./events-address";
import type { EventColumn } from "./events-address";
import classes from "./events.module.css";

export interface EventsViewProps {
  readonly page: EventsPage;
  readonly asked: AskedEvents;
  readonly columns: readonly EventColumn[];
  readonly notUnderstood: readonly string[];
  readonly timeZone: string;
  /** Begins a draft; undefined for who may not. */
  readonly begin?: BeginDraft | undefined;
}

type BeginDraft = (before: string | undefined, form: FormData) => Promise<string | undefined>;

/** Events as they come are looked for so often. */
const followedEveryMs = 5000;

const groupNames = { door: "Door", person: "Person", card: "Card", hour: "Hour" } as const;
const resultOf = (granted: boolean): string => (granted ? "let in" : "refused");

function resultWords(asked: AskedEvents, { events, groups, aboutName, span }: EventsPage): string {
  if (!span) return "No events yet";
  const of = aboutName === undefined ? "" : ` of ${aboutName}`;
  if (groups) return `Events${of}, by ${groupNames[asked.by ?? "door"].toLowerCase()}`;
  if (events.length === 0) return `No events${of} like these`;
  return `Events${of}, the newest first`;
}

/** The verdict of the record at the minute of an event, as a question. */
const verdictHref = ({ second, door, card }: ShownEvent): string | undefined =>
  card.credential !== undefined && door.isKnown
    ? `/inquiry?${new URLSearchParams({
        who: `credential:${card.credential}`,
        where: `door:${door.id}`,
        when: new Date(Math.floor(second / 60) * 60_000).toISOString().replace(/:\d\d\.\d+Z$/, "Z"),
      }).toString()}`
    : undefined;

/** Enters a card that the register does not know in a draft, with what was told of it. */
function EnterCard({ event: { card }, begin }: { readonly event: ShownEvent; readonly begin: BeginDraft }) {
  const { busy, refused, run } = useAction();
  const { unknown } = card;
  if (!unknown) return null;
  const enter = (): void => {
    const form = new FormData();
    form.set("name", `A card for the number ${card.words}`);
    const { number, facilityCode } = unknown;
    form.set("next", new URLSearchParams({ list: "credentials", number, ...(facilityCode !== undefined && { facilityCode }) }).toString());
    run(() => begin(undefined, form));
  };
  return (
    <>
      <p>
        <Button size="compact-xs" variant="default" loading={busy} onClick={enter}>
          Enter this card in a draft
        </Button>
      </p>
      {refused !== undefined && <p role="alert">{refused}</p>}
    </>
  );
}

function EventMargin({ event, begin }: { readonly event: ShownEvent; readonly begin: BeginDraft | undefined }) {
  const { door, card, granted, reason, agreement, snapshot, isLater, zone, second } = event;
  const verdict = verdictHref(event);
  return (
    <>
      <h2>{granted ? "Let in" : "Refused"}</h2>
      <div className={sheet.sub}>
        {secondOnClock(second, zone)} ({zone})
      </div>
      <p className={agreement.agrees === "no" ? sheet.grave : undefined}>{agreementWords(granted, agreement)}</p>
      <p className={sheet.sub}>
        Held against <Link href={`/register?snapshot=${snapshot}`}>snapshot {snapshot}</Link>
        {isLater ? ", the first there is: what the record said before is not known." : ", the last before it."}
      </p>
      <dl className={sheet.facts}>
        <dt>Door</dt>
        <dd>{door.isKnown ? <Link href={objectHref("door", door.id, undefined)}>{door.name}</Link> : `${door.name}, not in the register`}</dd>
        <dt>Card</dt>
        <dd>
          {card.credential !== undefined ? <Link href={objectHref("credential", card.credential, undefined)}>{card.words}</Link> : card.words}
          {card.credential === undefined && (card.isOneOfSeveral ? ", the number of several" : ", not in the register")}
        </dd>
        {card.cardholder && (
          <>
            <dt>Person</dt>
            <dd>
              <Link href={objectHref("cardholder", card.cardholder.id, undefined)}>{card.cardholder.name}</Link>
            </dd>
          </>
        )}
        {reason !== undefined && (
          <>
            <dt>Reason given</dt>
            <dd>{unitReasonWords(reason)}</dd>
          </>
        )}
      </dl>
      {begin && <EnterCard event={event} begin={begin} />}
      {verdict !== undefined && (
        <p>
          <Link href={verdict}>Why the record says so</Link>
        </p>
      )}
      <p>
        <Link href={eventsHref({ about: { kind: "door", id: door.id } })}>Events at this door</Link>
        {card.cardholder && (
          <>
            {" · "}
            <Link href={eventsHref({ about: { kind: "cardholder", id: card.cardholder.id } })}>Events of this person</Link>
          </>
        )}
      </p>
    </>
  );
}

function Groups({ asked, groups }: { readonly asked: AskedEvents; readonly groups: NonNullable<EventsPage["groups"]> }) {
  const { by: _, ...rest } = asked;
  return (
    <table className={sheet.table}>
      <thead>
        <tr>
          <th scope="col">{asked.by === "hour" ? "Hour of the day, at the door" : groupNames[asked.by ?? "door"]}</th>
          <th scope="col" className={sheet.number}>
            Events
          </th>
          <th scope="col" className={sheet.number}>
            Let in
          </th>
          <th scope="col" className={sheet.number}>
            Refused
          </th>
          <th scope="col">Last</th>
        </tr>
      </thead>
      <tbody>
        {groups.map(({ key, name, about, card, events, granted, last }) => (
          <tr key={key}>
            <td>
              {asked.by === "hour" ? `${name.padStart(2, "0")}:00` : <Link href={eventsHref({ ...rest, ...(about ? { about } : { card }) })}>{name}</Link>}
            </td>
            <td className={sheet.number}>{events.toLocaleString("en-GB")}</td>
            <td className={sheet.number}>{granted.toLocaleString("en-GB")}</td>
            <td className={sheet.number}>{(events - granted).toLocaleString("en-GB")}</td>
            <td className={classes.time}>{secondOnClock(last, "UTC")} UTC</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** One cell of the list. What has no column of its own stands in small print where it belongs. */
function EventCell({ event, column, columns }: { readonly event: ShownEvent; readonly column: EventColumn; readonly columns: readonly EventColumn[] }) {
  const { card, door, granted, reason, agreement, snapshot, file, line } = event;
  switch (column) {
    case "person":
      return (
        <td>
          {card.cardholder?.name ?? (columns.includes("card") ? "" : card.words)}
          <div className={sheet.sub}>
            {card.cardholder ? (columns.includes("card") ? "" : card.words) : card.credential === undefined ? "not in the register" : "nobody’s"}
          </div>
        </td>
      );
    case "card":
      return <td>{card.words}</td>;
    case "door":
      return <td>{door.name}</td>;
    case "result":
      return (
        <td>
          {resultOf(granted)}
          {reason !== undefined && !columns.includes("reason") && <div className={sheet.sub}>{unitReasonWords(reason)}</div>}
        </td>
      );
    case "reason":
      return <td>{reason === undefined ? "" : unitReasonWords(reason)}</td>;
    case "record":
      return <td className={agreement.agrees === "no" ? classes.differs : sheet.sub}>{agreementMark(agreement)}</td>;
    case "snapshot":
      return <td>snapshot {snapshot}</td>;
    case "line":
      return (
        <td>
          file {file}, line {line}
        </td>
      );
  }
}

/** What doors told: every event, found by any part of what it speaks of, and whether it agrees with the record of its time. */
export function EventsView({ page, asked, columns, notUnderstood, timeZone, begin }: EventsViewProps) {
  const router = useRouter();
  const following = useInterval(() => router.refresh(), followedEveryMs);
  const [waiting, startWaiting] = useTransition();
  const [text, setText] = useState(asked.text);
  const go = (change: Partial<AskedEvents>): void =>
    startWaiting(() => router.replace(eventsHref({ ...asked, behind: undefined, ...change }, columns), { scroll: false }));
  const choose = (shown: readonly string[]): void =>
    startWaiting(() =>
      router.replace(
        eventsHref(
          asked,
          (Object.keys(eventColumns) as EventColumn[]).filter((key) => shown.includes(key)),
        ),
        { scroll: false },
      ),
    );
  const find = useDebouncedCallback((wanted: string) => go({ text: wanted }), 250);
  const { events, groups } = page;
  const { selected, select, onKeyDown } = useRowSelection(events.length);
  const chosen = events[selected];
  const isOneZone = new Set(events.map(({ zone }) => zone)).size < 2;
  const date = (day: AskedEvents["from"]): string | null => (day === undefined ? null : formatCivilDay(day));
  return (
    <Sheet
      question={<QuestionLine asked={nothingAsked} />}
      margin={groups ? undefined : chosen ? <EventMargin event={chosen} begin={begin} /> : <p className={sheet.sub}>Nothing is selected.</p>}
    >
      <Heading
        result={resultWords(asked, page)}
        reference={
          <>
            <Link href="/register/events/replay">Hold them all against the record</Link> · <Link href="/register/events/files">Files</Link> ·{" "}
            <Link href="/register">Register</Link>
          </>
        }
        lead={
          page.span
            ? `From ${secondOnClock(page.span.from, timeZone)} to ${secondOnClock(page.span.to, timeZone)}.`
            : "Take a file of events in under Intake: a row each with at, door, credential or number, and result."
        }
      />
      {notUnderstood.length > 0 && (
        <p role="alert" className={sheet.grave}>
          Not understood in this address, and so left out: {listWords(notUnderstood)}.
        </p>
      )}
      <div className={classes.search} role="search" aria-busy={waiting}>
        <TextInput
          size="xs"
          w={172}
          aria-label="Find events"
          placeholder="part of a name, number …"
          value={text}
          onChange={(event) => {
            setText(event.currentTarget.value);
            find(event.currentTarget.value);
          }}
        />
        <Select
          size="xs"
          w={104}
          aria-label="What came of it"
          placeholder="let in or not"
          clearable
          value={asked.granted === undefined ? null : asked.granted ? "granted" : "refused"}
          data={[
            { value: "granted", label: "let in" },
            { value: "refused", label: "refused" },
          ]}
          onChange={(value) => go({ granted: value === null ? undefined : value === "granted" })}
        />
        <Select
          size="xs"
          w={112}
          aria-label="Reason given"
          placeholder="any reason"
          clearable
          searchable
          value={asked.reason === undefined ? null : `r ${asked.reason}`}
          data={[{ value: "r ", label: "no reason given" }, ...page.reasons.map((reason) => ({ value: `r ${reason}`, label: reason }))]}
          onChange={(value) => go({ reason: value?.slice(2) })}
        />
        <DateInput
          size="xs"
          w={100}
          aria-label="From"
          placeholder="from"
          valueFormat="D MMM YYYY"
          clearable
          value={date(asked.from)}
          onChange={(value) => go({ from: parseCivilDay(value ?? "") })}
        />
        <DateInput
          size="xs"
          w={100}
          aria-label="To, that date included"
          placeholder="to"
          valueFormat="D MMM YYYY"
          clearable
          value={date(asked.to)}
          onChange={(value) => go({ to: parseCivilDay(value ?? "") })}
        />
        <Select
          size="xs"
          w={104}
          aria-label="Put together by"
          placeholder="one by one"
          clearable
          value={asked.by ?? null}
          data={(Object.keys(groupNames) as (keyof typeof groupNames)[]).map((by) => ({ value: by, label: `by ${groupNames[by].toLowerCase()}` }))}
          onChange={(value) => go({ by: value ?? undefined })}
        />
        {!groups && asked.behind === undefined && (
          <Switch
            size="xs"
            label="As they come"
            checked={following.active}
            onChange={({ currentTarget: { checked } }) => (checked ? following.start() : following.stop())}
          />
        )}
        {!groups && (
          <ColumnChoice
            columns={(Object.keys(eventColumns) as EventColumn[]).map((key) => ({ key, title: eventColumns[key].title, shown: columns.includes(key) }))}
            onChoose={choose}
          />
        )}
        {(asked.about ?? asked.card) !== undefined && (
          <UnstyledButton className={sheet.plain} onClick={() => go({ about: undefined, card: undefined })}>
            Not only of {page.aboutName}
          </UnstyledButton>
        )}
      </div>
      {page.unknown.count > 0 && asked.about === undefined && asked.card === undefined && (
        <p className={sheet.sub}>
          {capital(plural(page.unknown.count, "card that nobody here has was", "cards that nobody here has were"))} seen:{" "}
          {page.unknown.most.map(({ card, words, events: n }, i) => (
            <Fragment key={card}>
              {i > 0 && ", "}
              <Link href={eventsHref({ card })}>{words}</Link> {timesWords(n)}
            </Fragment>
          ))}
          {page.unknown.count > page.unknown.most.length && ", …"}
        </p>
      )}
      {groups ? (
        <>
          {page.lookedBackTo !== undefined && <p className={sheet.grave}>This fits too much to be put together. Say more of what you look for.</p>}
          <Groups asked={asked} groups={groups} />
        </>
      ) : (
        <div role="group" aria-label="Events" onKeyDown={onKeyDown}>
          <table className={sheet.table}>
            <thead>
              <tr>
                <th scope="col">When, at the door</th>
                {columns.map((column) => (
                  <th key={column} scope="col">
                    {eventColumns[column].title}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {events.map((event, i) => (
                <tr
                  key={`${event.second} ${event.file} ${event.line}`}
                  className={`${sheet.row} ${i === selected ? sheet.selected : ""}`}
                  onClick={() => select(i)}
                >
                  <td className={classes.time}>
                    <UnstyledButton className={sheet.rowButton} data-row-button aria-pressed={i === selected} style={{ fontWeight: 400 }}>
                      {secondOnClock(event.second, event.zone)}
                    </UnstyledButton>
                    {isOneZone || <div className={sheet.sub}>{event.zone}</div>}
                  </td>
                  {columns.map((column) => (
                    <EventCell key={column} event={event} column={column} columns={columns} />
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
          {events.length === 0 && page.span && <p className={sheet.sub}>Nothing fits. Take something of the search away.</p>}
          {page.lookedBackTo !== undefined && (
            <p className={sheet.grave}>
              Looked back to {secondOnClock(page.lookedBackTo, timeZone)}: say more of what you look for, or give dates, to look further.
            </p>
          )}
          {page.next && (
            <p>
              <Link href={eventsHref({ ...asked, behind: page.next }, columns)}>Earlier ones</Link>
            </p>
          )}
        </div>
      )}
    </Sheet>
  );
}
