"use client";

import type { Inquiry } from "@/operations/inquiry/inquiry";
import type { CutOff, RoutesAnswer, ToldShutIn } from "@/operations/inquiry/routes-answer";
import Link from "next/link";
import sheet from "@/ui/sheet.module.css";
import { capital, countWords, plural, someWords } from "../words/numbers";
import { localMomentText } from "../words/times";
import { routesAddress } from "./address";
import classes from "./inquiry.module.css";
import { Door, OutOfUse, Place } from "./routes-links";

function Lost({ cutOff, inquiry, hasEnd }: { readonly cutOff: CutOff; readonly inquiry: Inquiry; readonly hasEnd: boolean }) {
  const { door, holders, holderCount, places, placeCount } = cutOff;
  const what = hasEnd ? "would no longer get there" : "would lose a place";
  return (
    <section>
      <h2>If {door.name} were out of use</h2>
      <p>
        {holderCount === 0
          ? `Nobody of those who are asked about ${hasEnd ? "would lose the way there" : "would lose a place"}.`
          : `${capital(countWords(holderCount))} ${what}: ${someWords(
              holders.map(({ name }) => name),
              8,
            )}${holderCount > holders.length ? " and more" : ""}.`}
      </p>
      {places.length > 0 && (
        <ul className={classes.plain}>
          {places.map((place) => (
            <li key={place.area}>
              <Place place={place} inquiry={inquiry} />: {plural(place.holders, "person or card", "people and cards")}
            </li>
          ))}
          {placeCount > places.length && <li>and {placeCount - places.length} places more</li>}
        </ul>
      )}
      <p>
        <Link href={routesAddress(inquiry)}>With all doors in use</Link>
      </p>
    </section>
  );
}

function ShutIns({ shutIn, hasWaysOut, inquiry }: { readonly shutIn: readonly ToldShutIn[]; readonly hasWaysOut: boolean; readonly inquiry: Inquiry }) {
  return (
    <section>
      <h2>Who could be shut in</h2>
      {shutIn.length === 0 && (
        <p>
          {hasWaysOut
            ? "Nobody, as far as the register tells: wherever a door that leads out is recorded, who gets in finds a way out the minute after."
            : "Cannot tell: no door is recorded that leads outside from there. One leaves by a handle, or a reader is missing from the register."}
        </p>
      )}
      {shutIn.map(({ place, holders, holderCount, first, zone }) => (
        <p key={place.area}>
          <b>
            <Place place={place} inquiry={inquiry} />
          </b>
          : {plural(holderCount, "person or card gets", "people and cards get")} in and {holderCount === 1 ? "finds" : "find"} no way out the minute after,
          first at {localMomentText(first, zone)}: {someWords(holders.map(({ name }) => name).slice(0, 6), 6)}
          {holderCount > 6 ? ` and ${holderCount - 6} more` : ""}.
        </p>
      ))}
    </section>
  );
}

/** What else there is to say of routes: what a door out of use cuts off, through which door last, what is opened and never got to, who could be shut in. */
export function RoutesMargin({ answer, inquiry }: { readonly answer: RoutesAnswer; readonly inquiry: Inquiry }) {
  const { of, shutIn, hasWaysOut, cutOff } = answer;
  const hasEnd = of.end !== undefined;
  return (
    <div className={classes.beside}>
      {cutOff && <Lost cutOff={cutOff} inquiry={inquiry} hasEnd={hasEnd} />}
      {of.kind === "several" && of.end && of.end.byLast.length > 0 && (
        <section>
          <h2>Last door on the way</h2>
          <table className={sheet.table}>
            <tbody>
              {of.end.byLast.map(({ door, holders }) => (
                <tr key={door.id}>
                  <td className={classes.targets}>
                    <Door door={door} inquiry={{ ...inquiry, who: undefined }} />
                    <div>
                      <OutOfUse door={door} inquiry={inquiry} words="If it were out of use" />
                    </div>
                  </td>
                  <td className={sheet.number}>{holders.toLocaleString("en-GB")}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </section>
      )}
      {of.kind === "several" && of.end && of.end.neverCount > 0 && (
        <section>
          <h2>Can open a door there, but have no way to it</h2>
          <p>
            {capital(plural(of.end.neverCount, "person or card", "people and cards"))}:{" "}
            {someWords(
              of.end.never.map(({ name }) => name),
              8,
            )}
            {of.end.neverCount > of.end.never.length ? " and more" : ""}. Nothing that they open leads them there from outside.
          </p>
        </section>
      )}
      {of.kind === "one" && of.stranded.length > 0 && (
        <section>
          <h2>Opens, but has no way to</h2>
          <ul className={classes.plain}>
            {of.stranded.slice(0, 20).map((door) => (
              <li key={door.id}>
                <Door door={door} inquiry={inquiry} />
              </li>
            ))}
            {of.stranded.length > 20 && <li>and {of.stranded.length - 20} more</li>}
          </ul>
        </section>
      )}
      <ShutIns shutIn={shutIn} hasWaysOut={hasWaysOut} inquiry={inquiry} />
    </div>
  );
}
