"use client";

import { Button } from "@mantine/core";
import Link from "next/link";
import { useRouter } from "next/navigation";
import type { ShownDifference, ShownUnit } from "@/operations/units/show-units";
import { Heading, Sheet } from "@/ui/sheet";
import sheet from "@/ui/sheet.module.css";
import { useAction } from "@/ui/use-action";
import { nothingAsked, QuestionLine } from "../../inquiry/question-line";
import { capital, countWords, firstOf, hoursWords, listWords, plural, someWords } from "../../words/numbers";
import { clockText, momentText } from "../../words/times";
import { objectHref } from "../list-address";
import { AtTheDoors } from "./at-the-doors";
import type { DoorActions } from "./at-the-doors";
import { UnitForm } from "./unit-form";
import type { UnitFormActions } from "./unit-form";
import { clockWords, roomWords, shortfallWords, standingWords } from "./unit-words";
import classes from "./units.module.css";

export interface UnitActions extends DoorActions, UnitFormActions {
  readonly sendAgain: (unit: string) => Promise<boolean>;
  readonly lockdown: (unit: string, raised: boolean) => Promise<string | undefined>;
}

/** What a unit does otherwise at a door, in hours. */
const amountWords = ({ minutesMore, minutesLess }: ShownDifference): string =>
  listWords([...(minutesMore > 0 ? [`${hoursWords(minutesMore)} more`] : []), ...(minutesLess > 0 ? [`${hoursWords(minutesLess)} less`] : [])]);

function Differences({ differences }: { readonly differences: readonly ShownDifference[] }) {
  return (
    <table className={sheet.table}>
      <thead>
        <tr>
          <th scope="col">Door</th>
          <th scope="col">card</th>
          <th scope="col">the unit</th>
          <th scope="col">first</th>
          <th scope="col">in the 13 months</th>
        </tr>
      </thead>
      <tbody>
        {differences.map((one) => (
          <tr key={`${one.door.id} ${one.card?.id ?? ""}`}>
            <td>
              <Link href={objectHref("door", one.door.id)}>{one.door.name}</Link>
            </td>
            <td>
              {one.holder && <Link href={objectHref("cardholder", one.holder.id)}>{one.holder.name}</Link>}
              {one.holder && one.card && ", "}
              {one.card ? <Link href={objectHref("credential", one.card.id)}>{one.card.label}</Link> : "anybody"}
            </td>
            <td>{one.unit === "open" ? <b>opens, and should not</b> : "stays shut"}</td>
            <td className={classes.tight}>{momentText(one.first.date, one.first.minuteOfDay)}</td>
            <td className={classes.tight}>{amountWords(one)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** What is said of a unit on top. */
function headline({ line: { id, standing }, differenceCount }: ShownUnit): string {
  if (differenceCount > 0 && standing === "silent") return `${id} ${standingWords(standing)}, and decides otherwise`;
  return `${id} ${standingWords(standing)}`;
}

function Room({ unit: { limits, room, shortfalls } }: { readonly unit: ShownUnit }) {
  const counted = ["cards", "sets", "rangesPerRow", "kinds", "dates", "rightsPerCard"] as const;
  return (
    <section aria-labelledby="room">
      <h2 id="room">What it has room for</h2>
      {shortfalls.length === 0 ? (
        <p className={sheet.sub}>It has room for all that the register asks of it.</p>
      ) : (
        shortfalls.map((one) => (
          <p key={one.limit}>
            {shortfallWords(one)} {one.named.length > 0 && <span className={sheet.sub}>{firstOf(one.named, one.without.length)}</span>}
          </p>
        ))
      )}
      <ul className={classes.room}>
        {counted.map((limit) => (
          <li key={limit}>{roomWords(limit, room?.[limit], limits[limit])}</li>
        ))}
      </ul>
    </section>
  );
}

/** One unit: what it holds against the register, what it has no room for, and what can be done at its doors. */
export function UnitView({
  unit,
  snapshot,
  mayTend,
  mayKeep,
  actions,
}: {
  readonly unit: ShownUnit;
  readonly snapshot: number;
  readonly mayTend: boolean;
  readonly mayKeep: boolean;
  readonly actions: UnitActions;
}) {
  const router = useRouter();
  const { busy, refused, run } = useAction();
  const { line, differences, differenceCount, entry, afterSending, heldReadAt } = unit;
  const { id, doors, standing, isSentFromHere, lockdown, clockOff, answeredAt, sending } = line;
  const isKnown = standing !== "not-known";
  const act = (work: () => Promise<string | undefined>): void =>
    run(async () => {
      const words = await work();
      router.refresh();
      return words;
    });
  return (
    <Sheet
      question={<QuestionLine asked={nothingAsked} />}
      margin={
        <>
          {unit.isStandIn && mayTend && <AtTheDoors unit={unit} actions={actions} />}
          {mayKeep && <UnitForm unit={unit} actions={actions} />}
          {!(unit.isStandIn && mayTend) && !mayKeep && <p className={sheet.sub}>What happens at its doors stands among the events of each door.</p>}
        </>
      }
    >
      <Heading
        result={headline(unit)}
        reference={<Link href="/register/units">All units</Link>}
        lead={
          isKnown
            ? `${capital(plural(doors.length, "door", "doors"))}: ${someWords(
                doors.map(({ name }) => name),
                6,
              )}. ${answeredAt === undefined ? "It has never answered." : `Last heard on ${clockText(answeredAt)}.`} ${isSentFromHere ? "What it holds is sent from here." : "Another system sends it; from here it is only read."}`
            : `${capital(plural(doors.length, "door names", "doors name"))} it, and nobody has said yet where it answers.`
        }
      />
      {clockOff !== undefined && Math.abs(clockOff) > 30 && <p className={sheet.must}>Its clock was {clockWords(clockOff)} when it was last heard.</p>}
      {lockdown && <p className={sheet.must}>It is in a lockdown.</p>}
      {line.problem !== undefined && standing !== "silent" && (
        <p>
          <b>{sending ? "It did not take all that it was sent" : "Asked, it says"}:</b> {line.problem}
          {sending &&
            ` ${capital(countWords(sending.done))} of ${plural(sending.of, "step was", "steps were")} done, waiting since ${clockText(sending.since)}.`}
        </p>
      )}
      {isKnown && mayTend && (
        <p className={sheet.links}>
          <Button
            size="compact-xs"
            variant="default"
            loading={busy}
            onClick={() => act(async () => ((await actions.sendAgain(id)) ? undefined : "There is no such unit any more."))}
          >
            {isSentFromHere ? "Read and send it again" : "Read it again"}
          </Button>
          <Button size="compact-xs" variant="default" disabled={busy} onClick={() => act(() => actions.lockdown(id, !lockdown))}>
            {lockdown ? "Lift the lockdown" : "Raise a lockdown"}
          </Button>
        </p>
      )}
      {refused !== undefined && <p role="alert">{refused}</p>}
      {/* What it has too little room for explains what follows. */}
      {answeredAt !== undefined && unit.shortfalls.length > 0 && <Room unit={unit} />}
      {isKnown && (
        <section aria-labelledby="differences">
          <h2 id="differences">
            {heldReadAt === undefined
              ? "What it holds is not known yet"
              : differenceCount === 0
                ? "It decides as the register says"
                : `At ${plural(new Set(differences.map(({ door }) => door.id)).size, "door", "doors")} it decides otherwise than the register says`}
          </h2>
          {heldReadAt !== undefined && (
            <p className={sheet.sub}>
              By what it told on {clockText(heldReadAt)}, against snapshot {snapshot}, over the 13 months from its export; a door that stands free counts as
              open.
            </p>
          )}
          {differenceCount > 0 && <Differences differences={differences} />}
          {differenceCount > differences.length && (
            <p className={sheet.sub}>
              The first {differences.length} of {differenceCount.toLocaleString("en-GB")}.
            </p>
          )}
          {entry.map(({ door, register, held }) => (
            <p key={door}>
              {door}: the unit asks for {held}, where the register says {register}.
            </p>
          ))}
          {!afterSending.isHeld && heldReadAt !== undefined && (
            <p>
              {afterSending.more + afterSending.less + afterSending.free + afterSending.entry === 0
                ? "Once it holds all that it should, it decides as the register says."
                : `Once it holds all that it has room for, it still opens more for ${plural(afterSending.more, "card", "cards")} and less for ${plural(afterSending.less, "card", "cards")}${afterSending.free > 0 ? `, and at ${plural(afterSending.free, "door", "doors")} otherwise for anybody` : ""}${afterSending.entry > 0 ? `, and asks for something else at ${plural(afterSending.entry, "door", "doors")}` : ""}.`}
            </p>
          )}
        </section>
      )}
      {answeredAt !== undefined && unit.shortfalls.length === 0 && <Room unit={unit} />}
    </Sheet>
  );
}
