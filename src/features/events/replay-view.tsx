"use client";

import { Button } from "@mantine/core";
import { DateInput } from "@mantine/dates";
import Link from "next/link";
import { useMemo, useState } from "react";
import { formatCivilDay } from "@/core/time/civil-day";
import type { Replay } from "@/operations/events/replay-events";
import { Chart } from "@/ui/chart";
import { Heading, Sheet } from "@/ui/sheet";
import sheet from "@/ui/sheet.module.css";
import { useAction } from "@/ui/use-action";
import { nothingAsked, QuestionLine } from "../inquiry/question-line";
import { TaskProgress } from "../shell/task-progress";
import { differenceWords } from "../words/events";
import { plural } from "../words/numbers";
import { secondOnClock } from "../words/times";
import { eventsHref } from "./events-address";
import classes from "./events.module.css";

export type Replayed = { readonly outcome: "replayed"; readonly replay: Replay } | { readonly outcome: "refused"; readonly why: string };

export interface ReplayViewProps {
  /** First and last date with events, on the facility's clock, `YYYY-MM-DD`; undefined where there are none. */
  readonly span: { readonly from: string; readonly to: string } | undefined;
  readonly usual: { readonly from: string; readonly to: string };
  readonly replay: (from: string, to: string, task: string) => Promise<Replayed>;
}

const percentOf = ({ agree, differ }: Pick<Replay, "agree" | "differ">): string =>
  agree + differ === 0 ? "–" : `${((100 * agree) / (agree + differ)).toFixed(2)} %`;

function Found({ replay, from, to }: { readonly replay: Replay; readonly from: string; readonly to: string }) {
  const days = useMemo(
    () => ({
      data: [
        { type: "bar", name: "agree", x: replay.days.map(({ date }) => formatCivilDay(date)), y: replay.days.map(({ agree }) => agree) },
        { type: "bar", name: "do not", x: replay.days.map(({ date }) => formatCivilDay(date)), y: replay.days.map(({ differ }) => differ) },
      ],
      layout: { barmode: "stack", bargap: 0.25 },
    }),
    [replay],
  );
  const all = replay.agree + replay.differ;
  return (
    <>
      <p>
        <span className={classes.figure}>{percentOf(replay)}</span> of {all.toLocaleString("en-GB")} events from {from} to {to} agree with the record of their
        time; {plural(replay.differ, "does", "do")} not
        {replay.cannotTell > 0 && `; of ${replay.cannotTell.toLocaleString("en-GB")} it cannot be told`}.{" "}
        <span className={sheet.sub}>
          Held against {replay.snapshots.length === 1 ? "snapshot" : "snapshots"} {replay.snapshots.join(", ")}.
        </span>
      </p>
      <Chart title="Events a day, and those that do not agree" data={days.data} layout={days.layout}>
        <table className={sheet.table}>
          <thead>
            <tr>
              <th scope="col">Date</th>
              <th scope="col" className={sheet.number}>
                Agree
              </th>
              <th scope="col" className={sheet.number}>
                Do not
              </th>
            </tr>
          </thead>
          <tbody>
            {replay.days.map(({ date, agree, differ }) => (
              <tr key={date}>
                <td>{formatCivilDay(date)}</td>
                <td className={sheet.number}>{agree}</td>
                <td className={sheet.number}>{differ}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </Chart>
      {replay.differ > 0 && (
        <>
          <h2>What does not agree, explained</h2>
          <table className={sheet.table} style={{ marginBottom: 24 }}>
            <tbody>
              {replay.examples.slice(0, 12).map(({ second, door, doorId, zone, card, cardholder, granted, reason, snapshot }) => (
                <tr key={`${second} ${doorId} ${card}`}>
                  <td className={classes.time}>{secondOnClock(second, zone)}</td>
                  <td>
                    {cardholder ?? card}
                    {cardholder !== undefined && <div className={sheet.sub}>{card}</div>}
                  </td>
                  <td>
                    <Link href={eventsHref({ about: { kind: "door", id: doorId } })}>{door}</Link>
                  </td>
                  <td className={sheet.words}>
                    {differenceWords(`${granted ? "granted" : "refused"} ${reason}`)}
                    <div className={sheet.sub}>as snapshot {snapshot} has it</div>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
          <div className={classes.two}>
            <Differences title="By what happened" rows={replay.byReason.map((one) => ({ ...one, name: differenceWords(one.key) }))} />
            <Differences title="By door" rows={replay.byDoor} hrefOf={(key) => eventsHref({ about: { kind: "door", id: key } })} />
            <Differences
              title="By person or card"
              rows={replay.byPerson}
              hrefOf={(key) => {
                const [kind, ...id] = key.split(":");
                return kind === "cardholder" || kind === "credential" ? eventsHref({ about: { kind, id: id.join(":") } }) : eventsHref({ card: key });
              }}
            />
          </div>
        </>
      )}
    </>
  );
}

function Differences({ title, rows, hrefOf }: { readonly title: string; readonly rows: Replay["byDoor"]; readonly hrefOf?: (key: string) => string }) {
  return (
    <table className={sheet.table} style={{ marginBottom: 24, alignSelf: "start" }}>
      <thead>
        <tr>
          <th scope="col">{title}</th>
          <th scope="col" className={sheet.number}>
            Events
          </th>
        </tr>
      </thead>
      <tbody>
        {rows.map(({ key, name, events }) => (
          <tr key={key}>
            <td>{hrefOf ? <Link href={hrefOf(key)}>{name}</Link> : name}</td>
            <td className={sheet.number}>{events.toLocaleString("en-GB")}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** Every event of a period held against the record of its time. */
export function ReplayView({ span, usual, replay }: ReplayViewProps) {
  const [from, setFrom] = useState<string | null>(usual.from);
  const [to, setTo] = useState<string | null>(usual.to);
  const [found, setFound] = useState<{ readonly replay: Replay; readonly from: string; readonly to: string }>();
  const [task, setTask] = useState<string>();
  const { busy, refused, run } = useAction();
  const begin = (): void => {
    const number = crypto.randomUUID();
    setTask(number);
    setFound(undefined);
    run(async () => {
      if (from === null || to === null) return "Give both dates.";
      const done = await replay(from, to, number);
      if (done.outcome === "refused") return done.why;
      setFound({ replay: done.replay, from, to });
      return undefined;
    });
  };
  return (
    <Sheet question={<QuestionLine asked={nothingAsked} />}>
      <Heading
        result="Events, held against the record"
        reference={<Link href="/register/events">Events</Link>}
        lead="Each event is asked again of the last snapshot that was exported before it: did the door do what the record said? A door that was free lets anybody in."
      />
      {span ? (
        <div style={{ display: "flex", gap: 10, alignItems: "end", marginBottom: 16 }}>
          <DateInput size="xs" w={140} label="From" valueFormat="D MMM YYYY" value={from} onChange={setFrom} />
          <DateInput size="xs" w={140} label="To, that date included" valueFormat="D MMM YYYY" value={to} onChange={setTo} />
          <Button size="xs" loading={busy} onClick={begin}>
            Hold them against the record
          </Button>
          <span className={sheet.sub}>
            There are events from {span.from} to {span.to}.
          </span>
        </div>
      ) : (
        <p>There are no events yet.</p>
      )}
      {busy && task !== undefined && <TaskProgress at="/register/events/task" task={task} name="Events" />}
      {refused !== undefined && (
        <p role="alert" className={sheet.grave}>
          {refused}
        </p>
      )}
      {found && <Found replay={found.replay} from={found.from} to={found.to} />}
    </Sheet>
  );
}
