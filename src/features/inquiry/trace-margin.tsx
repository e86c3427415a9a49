import { usualBusinessWeek } from "@/core/findings/business-hours";
import type { TracedPath } from "@/core/paths/trace";
import { parseInstant, minuteDown } from "@/core/time/instant";
import type { EpochMinute } from "@/core/time/instant";
import { subtract } from "@/core/time/intervals";
import { weekdayNumber } from "@/core/time/civil-day";
import { localTime, zoneOf } from "@/core/time/zone";
import type { Inquiry, Trace } from "@/operations/inquiry/inquiry";
import { WeekDrawing } from "@/ui/week-drawing";
import sheet from "@/ui/sheet.module.css";
import { UnitLink } from "../register/units/unit-link";
import { sentenceOfFinding } from "../words/finding-names";
import { needsWords } from "../words/needs";
import { pathStateWords, reasonWords } from "../words/reasons";
import { clockText, localMomentText, nearMomentText } from "../words/times";
import { unitReasonWords } from "../words/unit-reasons";
import classes from "./inquiry.module.css";
import { PathChain } from "./path-chain";
import { ToShut } from "./to-shut";

/**
 * The drawn week of a set of minutes: solid in business hours, hatched outside. What was frozen before these were kept with it is held against the usual
 * ones.
 */
export function AccessWeek({
  week,
  outside = subtract(week, usualBusinessWeek),
  size,
  pin,
  words,
}: {
  readonly week: readonly number[];
  readonly outside?: readonly number[] | undefined;
  readonly size: "cell" | "large";
  readonly pin?: number;
  readonly words: string;
}) {
  return <WeekDrawing solid={subtract(week, outside)} hatched={outside} size={size} label={`Usual week: ${words}`} {...(pin !== undefined && { pin })} />;
}

export const minuteOfWeek = (minute: EpochMinute, zone: string): number => {
  const { date, minuteOfDay } = localTime(zoneOf(zone), minute);
  return weekdayNumber(date) * 1440 + minuteOfDay;
};

function changeText(path: TracedPath, zone: string): string {
  const change = path.changesAt === undefined ? undefined : parseInstant(path.changesAt);
  if (!change) return "";
  const open = path.state === "open" || path.state === "blocks";
  return `${open ? "next closes" : "next opens"} ${nearMomentText(minuteDown(change), zone)}`;
}

/** The sentence of a verdict. */
export const verdictWords = ({ holder, door, verdict, free }: Trace, asIfLive = false): string => {
  const opens = verdict.verdict === "open";
  const [yes, no] = asIfLive ? ["would open", "would not open"] : ["opens", "does not open"];
  const live = asIfLive ? " if every card were live" : "";
  return `${holder.name} ${opens ? yes : no} ${door.name}${live}${!opens && free ? ", but it stands open to everybody" : ""}`;
};

const marks = ["†", "‡", "§", "¶", "‖", "#"];
export const markOf = (rules: readonly string[], rule: string): string => marks[rules.indexOf(rule) % marks.length] ?? "†";

/** What the unit at the door would do by what it holds, beside what the register says. */
function AtTheUnit({ trace: { atUnit, verdict } }: { readonly trace: Trace }) {
  if (!atUnit) return null;
  const { unit, opens, reason, answeredAt, silentSince } = atUnit;
  const agrees = opens === (verdict.verdict === "open");
  const link = <UnitLink id={unit} />;
  const silent = silentSince === undefined ? "" : ` It has not been heard since ${clockText(silentSince)}.`;
  // It is not known what it will hold then, nor what it held before it was last heard.
  const held = answeredAt === undefined ? "" : `, by what it held on ${clockText(answeredAt)}`;
  return agrees ? (
    <p className={sheet.sub}>
      The unit at the door, {link}, decides the same{held}.{silent}
    </p>
  ) : (
    <p className={sheet.must}>
      <b>The door itself would decide otherwise:</b> {link} {opens ? "opens" : `stays shut, ${unitReasonWords(reason)}`}
      {held}.{silent}
    </p>
  );
}

/** Why: the paths of a verdict, what must go to shut it, and what speaks against it. */
export function TraceMargin({
  trace,
  asked,
  rules,
  withWeek = true,
}: {
  readonly trace: Trace;
  readonly asked: Inquiry;
  readonly rules: readonly string[];
  readonly withWeek?: boolean;
}) {
  const { door, at, verdict, names } = trace;
  const paths = [...verdict.paths].sort((a, b) => Number(b.state === "open" || b.state === "blocks") - Number(a.state === "open" || a.state === "blocks"));
  const count = paths.length;
  return (
    <>
      <h2>{verdictWords(trace, asked.asIfLive)}</h2>
      <div className={sheet.sub}>
        {localMomentText(at, door.zone)}
        {trace.credential && verdict.verdict === "open" ? `, with ${trace.credential.name}` : ""}
      </div>
      {verdict.verdict === "closed" && <div className={sheet.sub}>Because {reasonWords(verdict.reason)}.</div>}
      <AtTheUnit trace={trace} />
      {withWeek && (
        <div className={classes.week}>
          <AccessWeek week={trace.week.open} outside={trace.week.outside} size="large" pin={minuteOfWeek(at, door.zone)} words={trace.words} />
        </div>
      )}
      {paths.map((path, i) => {
        const open = path.state === "open" || path.state === "blocks";
        return (
          <section key={`${path.grant ?? "override"} ${path.level ?? ""} ${path.row ?? ""} ${path.groups?.join() ?? ""} ${i}`}>
            <div className={classes.path}>
              <b>
                {path.effect === "block" ? "Block" : `Path ${i + 1} of ${count}`}, {pathStateWords(path.state)}
              </b>
              <span>{changeText(path, door.zone)}</span>
            </div>
            <PathChain path={path} names={names} isOpen={open} snapshot={asked.snapshot} />
          </section>
        );
      })}
      {count === 0 && <p className={sheet.sub}>No grant leads from here to this door.</p>}
      {trace.needs.some(({ need }) => need !== "a-grant") && (
        <div className={sheet.must}>
          <b>It would open</b> if {needsWords(trace.needs, names)}.
        </div>
      )}
      {trace.endsUnused.map(({ credential, at: end }) => (
        <p key={credential.id} className={sheet.sub}>
          {credential.name} {end <= at ? "ended" : "ends"} on {nearMomentText(end, door.zone)} by not being used{end <= at ? "" : ", if it is not used again"}
          {trace.uses.prolonged > 0 ? "; uses since the export are counted" : ""}.
        </p>
      ))}
      {trace.everOpens && <ToShut asked={asked} />}
      {trace.others.length > 0 && (
        <p className={sheet.sub}>
          Other credentials:{" "}
          {trace.others.map(({ credential, reason }) => `${credential.name} (${reason === "open" ? "opens too" : reasonWords(reason)})`).join(", ")}.
        </p>
      )}
      {trace.findings.length > 0 && (
        <div className={sheet.notes}>
          {asked.draft !== undefined && <p className={sheet.sub}>Findings are those of the register as it stands, without the draft.</p>}
          {trace.findings.map((finding) => (
            <p key={finding.fingerprint}>
              <b>{markOf(rules, finding.rule)}</b>
              {sentenceOfFinding(finding, trace.timeZone)}
            </p>
          ))}
        </div>
      )}
    </>
  );
}
