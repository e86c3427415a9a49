import type { Line } from "@/core/certification/line";
import type { EpochMinute } from "@/core/time/instant";
import sheet from "@/ui/sheet.module.css";
import { AccessWeek } from "../inquiry/trace-margin";
import type { DocketWords } from "../words/docket/docket-words";
import classes from "./docket.module.css";

/** What is told of use, peers and since when at once, since it is unusual, and what only who wants more is told. */
function factsOf(line: Line, asOf: EpochMinute, words: DocketWords): readonly [unusual: string[], usual: string[]] {
  const { use, peers, keptBefore, since } = line;
  const isUsed = use.last !== undefined || !(use.coveredDays > 0);
  const isShared = peers === undefined || peers.of === 0 || 2 * peers.same >= peers.of;
  const told = [
    { words: words.use(line, asOf), isUsual: isUsed },
    { words: words.peers(line), isUsual: isShared },
    ...(since ? [{ words: words.since(since), isUsual: since.notYet === undefined }] : []),
    ...(keptBefore === undefined ? [] : [{ words: words.keptBefore(keptBefore), isUsual: true }]),
  ];
  const which = (isUsual: boolean) => told.filter((fact) => fact.isUsual === isUsual).map((fact) => fact.words);
  return [which(false), which(true)];
}

export interface AccessFactsProps {
  readonly line: Line;
  readonly asOf: EpochMinute;
  /** The zone in which dates of the register are read. */
  readonly timeZone: string;
  readonly words: DocketWords;
}

/** What somebody's access is: when, how used, who else has it, and what speaks against it. */
export function AccessFacts({ line, asOf, timeZone, words }: AccessFactsProps) {
  const [unusual, usual] = factsOf(line, asOf, words);
  return (
    <>
      {line.override && <p className={classes.hours}>{words.override}</p>}
      {line.hours.map((hours) => (
        <div key={hours.words + (hours.doors[0]?.id ?? "")}>
          <div className={classes.hours}>{words.hours(hours)}</div>
          <div className={classes.facts}>
            <AccessWeek week={hours.week} outside={hours.outside} size="cell" words={hours.words} />
            {hours === line.hours[0] && <span>{unusual.join(" ")}</span>}
          </div>
        </div>
      ))}
      {line.hours.length > 0 && (
        <details className={classes.more}>
          <summary>{words.more}</summary>
          {line.hours.map((hours) => (
            <p key={hours.words + (hours.doors[0]?.id ?? "")}>{words.doors(hours.doors.map(({ name }) => name))}</p>
          ))}
          <p>{usual.join(" ")}</p>
        </details>
      )}
      {line.subject.kind === "credential" && (
        <>
          {line.life && <p className={classes.hours}>{words.life(line.life)}</p>}
          <p className={sheet.sub}>{words.use(line, asOf)}</p>
        </>
      )}
      {line.findings.map((finding) => (
        <p key={finding.fingerprint} className={sheet.grave}>
          {words.finding(finding, timeZone)}
        </p>
      ))}
    </>
  );
}
