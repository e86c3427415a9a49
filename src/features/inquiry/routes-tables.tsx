"use client";

import type { Inquiry, NamedDoor } from "@/operations/inquiry/inquiry";
import type { RoutesOfOne, RoutesOfSeveral } from "@/operations/inquiry/routes-answer";
import sheet from "@/ui/sheet.module.css";
import { capital, countWords, hoursWords, listWords, plural } from "../words/numbers";
import classes from "./inquiry.module.css";
import { Door, Holder, OutOfUse, Place } from "./routes-links";

/** What the last door of a way being out of use would cut off. */
function LastOut({ doors, inquiry }: { readonly doors: readonly NamedDoor[]; readonly inquiry: Inquiry }) {
  const last = doors.at(-1);
  return (
    last && (
      <div>
        <OutOfUse door={last} inquiry={inquiry} words="If the last were out of use" />
      </div>
    )
  );
}

export function Ways({ of, inquiry }: { readonly of: RoutesOfOne; readonly inquiry: Inquiry }) {
  const { end } = of;
  if (!end) return null;
  if (end.shutWay)
    return (
      <>
        <h2 className={classes.section}>The way on which the fewest doors stay shut</h2>
        <ol className={classes.steps}>
          {end.shutWay.map(({ door, isShut }) => (
            <li key={door.id}>
              <Door door={door} inquiry={inquiry} />
              {isShut ? <b> stays shut</b> : " opens"}
            </li>
          ))}
        </ol>
      </>
    );
  return (
    <>
      <h2 className={classes.section}>
        {end.areAll ? capital(plural(end.ways.length, "way", "ways")) : `The first ${countWords(end.ways.length)} ways; there are more`}
      </h2>
      <table className={sheet.table}>
        <thead>
          <tr>
            <th scope="col" className={sheet.number}>
              Doors
            </th>
            <th scope="col">Through, one after the other</th>
            {end.ways.some(({ words }) => words !== undefined) && <th scope="col">When all of them can be taken</th>}
          </tr>
        </thead>
        <tbody>
          {end.ways.map(({ doors, words }) => (
            <tr key={doors.map(({ id }) => id).join(" ")}>
              <td className={sheet.number}>{doors.length}</td>
              <td>
                {doors.map((door, i) => (
                  <span key={door.id}>
                    {i > 0 && <span aria-hidden> → </span>}
                    <Door door={door} inquiry={inquiry} />
                  </span>
                ))}
                <LastOut doors={doors} inquiry={inquiry} />
              </td>
              {words !== undefined && <td>{words}</td>}
            </tr>
          ))}
        </tbody>
      </table>
    </>
  );
}

export function PlacesOfOne({ of, inquiry }: { readonly of: RoutesOfOne; readonly inquiry: Inquiry }) {
  if (of.end || of.places.length === 0) return null;
  return (
    <table className={sheet.table}>
      <thead>
        <tr>
          <th scope="col">Gets to</th>
          <th scope="col" className={sheet.number}>
            fewest doors
          </th>
          {of.places.some(({ words }) => words !== undefined) && <th scope="col">when</th>}
        </tr>
      </thead>
      <tbody>
        {of.places.map((place) => (
          <tr key={place.area}>
            <td>
              <Place place={place} inquiry={inquiry} />
            </td>
            <td className={sheet.number}>{place.steps}</td>
            {place.words !== undefined && <td>{place.words}</td>}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

export function People({ of, inquiry }: { readonly of: RoutesOfSeveral; readonly inquiry: Inquiry }) {
  const { end } = of;
  if (!end || end.rows.length === 0) return null;
  const isSpan = inquiry.when.kind !== "now" && inquiry.when.kind !== "moment";
  return (
    <>
      <h2 className={classes.section}>Who gets there</h2>
      <table className={sheet.table}>
        <thead>
          <tr>
            <th scope="col">Who</th>
            <th scope="col" className={sheet.number}>
              Fewest doors
            </th>
            <th scope="col">Last door</th>
            {isSpan && (
              <th scope="col" className={sheet.number}>
                total
              </th>
            )}
          </tr>
        </thead>
        <tbody>
          {end.rows.map(({ holder, steps, last, minutes }) => (
            <tr key={`${holder.kind} ${holder.id}`}>
              <td>
                <Holder holder={holder} inquiry={inquiry} />
                <div className={sheet.sub}>{holder.detail}</div>
              </td>
              <td className={sheet.number}>{steps}</td>
              <td>{listWords(last.map(({ name }) => name))}</td>
              {isSpan && <td className={sheet.number}>{hoursWords(minutes)}</td>}
            </tr>
          ))}
        </tbody>
      </table>
      {end.arriving > end.rows.length && (
        <p className={sheet.sub}>{(end.arriving - end.rows.length).toLocaleString("en-GB")} more, by as many doors or more.</p>
      )}
    </>
  );
}

export function PlacesOfSeveral({ of, inquiry }: { readonly of: RoutesOfSeveral; readonly inquiry: Inquiry }) {
  if (of.end) return null;
  return (
    <>
      <table className={sheet.table}>
        <thead>
          <tr>
            <th scope="col">Place</th>
            <th scope="col" className={sheet.number}>
              people and cards
            </th>
            <th scope="col" className={sheet.number}>
              fewest doors
            </th>
          </tr>
        </thead>
        <tbody>
          {of.places.map((place) => (
            <tr key={place.area}>
              <td>
                <Place place={place} inquiry={inquiry} />
              </td>
              <td className={sheet.number}>{place.holders.toLocaleString("en-GB")}</td>
              <td className={sheet.number}>{place.steps}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {of.morePlaces > 0 && <p className={sheet.sub}>{of.morePlaces.toLocaleString("en-GB")} places more.</p>}
    </>
  );
}
