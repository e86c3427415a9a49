"use client";

import type { Narrowing } from "@/core/certification/decide-line";
import { intersect, subtract } from "@/core/time/intervals";
import type { ShownLineEffect } from "@/operations/certification/withdrawals";
import { useFetched } from "@/ui/fetched";
import { AccessWeek } from "../inquiry/trace-margin";
import type { DocketWords } from "../words/docket/docket-words";
import classes from "./docket.module.css";

/** Where what a decision comes to is asked for. */
export function effectAddress(line: number, narrowing: Narrowing | undefined): string {
  const asked = new URLSearchParams({ line: String(line) });
  if (narrowing?.kind === "doors") for (const door of narrowing.shut) asked.append("shut", door);
  if (narrowing?.kind === "hours") {
    if (narrowing.schedule !== undefined) asked.set("schedule", narrowing.schedule);
    if (narrowing.until !== undefined) asked.set("until", narrowing.until);
  }
  return `/docket/line/withdrawal?${asked.toString()}`;
}

/** What withdrawing or narrowing a line comes to, asked for when it is chosen: what is ordered, what else is lost, and what stays drawn beside what goes. */
export function LineEffect({ line, narrowing, words }: { readonly line: number; readonly narrowing?: Narrowing | undefined; readonly words: DocketWords }) {
  const asked = useFetched<ShownLineEffect>(effectAddress(line, narrowing));
  if (asked.state === "awaited") return <p className={classes.effect}>{words.workingOut}</p>;
  if (asked.state === "failed") return <p className={classes.effect}>{words.notWorkedOut}</p>;
  const { weeks, names } = asked.value;
  return (
    <>
      <p className={classes.effect}>{words.withdrawal(asked.value)}</p>
      {narrowing !== undefined &&
        weeks.map(({ doors, before, after, outside }) => {
          const goes = subtract(before, after);
          const doorNames = words.doors(doors.map((door) => names[`door ${door}`] ?? door));
          return (
            <div key={doors.join()} className={classes.weeks}>
              {after.length > 0 && (
                <figure>
                  <AccessWeek week={after} outside={outside && intersect(after, outside)} size="cell" words={`${words.stays}: ${doorNames}`} />
                  <figcaption>{words.stays}</figcaption>
                </figure>
              )}
              {goes.length > 0 && (
                <figure>
                  <AccessWeek week={goes} outside={outside && intersect(goes, outside)} size="cell" words={`${words.goes}: ${doorNames}`} />
                  <figcaption>{words.goes}</figcaption>
                </figure>
              )}
              <span>{doorNames}</span>
            </div>
          );
        })}
    </>
  );
}
