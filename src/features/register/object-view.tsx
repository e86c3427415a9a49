import Link from "next/link";
import type { RegisterKind } from "@/core/register/kinds";
import { listOfKind } from "@/core/register/kinds";
import { formatCivilDay } from "@/core/time/civil-day";
import type { ObjectSection, ObjectSheet } from "@/operations/register/show-object";
import { Heading, Sheet } from "@/ui/sheet";
import sheet from "@/ui/sheet.module.css";
import { planAnswerAddress } from "../inquiry/address";
import { nothingAsked, QuestionLine } from "../inquiry/question-line";
import { RecordLink } from "../evidence/record-link";
import { WholeOnly } from "../shell/seeing";
import { findingsHref } from "../findings/findings-address";
import { eventsHref } from "../events/events-address";
import { sentenceOfFinding } from "../words/finding-names";
import { capital, plural } from "../words/numbers";
import { kindWords } from "../words/register-words";
import { listHref, listOf, objectHref } from "./list-address";
import classes from "./register.module.css";
import { ScheduleView } from "./schedule-view";
import { UnitLink } from "./units/unit-link";
import { YearView } from "./year-view";

/** The fact of a door that names its unit, as the columns of the register call it. */
const controllerTitle = "Controller";

/** The question that lies nearest to an object of a kind. */
const question: Partial<Record<RegisterKind, { readonly words: string; readonly part: "who" | "where" }>> = {
  cardholder: { words: "What do they open, and when?", part: "who" },
  credential: { words: "What does it open, and when?", part: "who" },
  door: { words: "Who opens it, and when?", part: "where" },
  area: { words: "Who opens it, and when?", part: "where" },
};

/** What hangs on an object is said in terms of the object: its doors, the people with it. */
const sectionWords: Partial<Record<`${RegisterKind} ${RegisterKind}`, string>> = {
  "level cardholder": "Who has it",
  "level door": "Which doors, and when",
  "bundle cardholder": "Who has it",
  "group cardholder": "Who is in it or below it",
  "group group": "Groups below it",
  "group grant": "What it is given",
  "group level": "Levels that come with it",
  "cardholder group": "Groups",
  "cardholder level": "Levels, directly or through groups",
  "cardholder grant": "Grants, directly or through groups",
  "cardholder area": "Areas of which they are the owner",
  "cardholder cardholder": "People for whom they answer",
  "door level": "Levels that open it",
  "door grant": "Grants for this door alone",
  "door schedule": "Schedules of its own",
  "door door": "Doors behind it",
  "area door": "Doors",
  "area area": "Areas inside it",
  "schedule level": "Levels that use it",
  "schedule door": "Doors that depend on it",
  "schedule cardholder": "People whose access depends on it",
  "schedule grant": "Grants narrowed by it",
  "calendar site": "Sites that follow it",
  "calendar cardholder": "People with it as their own",
  "grant cardholder": "Whom it reaches",
  "grant door": "Which doors",
};

interface ViewProps {
  readonly object: ObjectSheet;
  readonly past: number | undefined;
  /** Whether drafts may be made of it. */
  readonly mayEdit: boolean;
}

function Section({ object, section, past }: { readonly object: ObjectSheet; readonly section: ObjectSection; readonly past: number | undefined }) {
  const all = listHref(listOf(section.kind, { of: { kind: object.kind, id: object.id }, snapshot: past }));
  const hasWays = section.rows.some(({ way }) => way !== "");
  return (
    <section>
      <h2 className={classes.section}>
        {sectionWords[`${object.kind} ${section.kind}`] ?? kindWords[section.kind][0]}{" "}
        <Link href={all} className={sheet.sub}>
          {section.total.toLocaleString("en-GB")}
        </Link>
      </h2>
      <table className={sheet.table}>
        <tbody>
          {section.rows.map(({ id, name, detail, way }) => (
            <tr key={id}>
              <td style={{ width: "34%" }}>
                <Link href={objectHref(section.kind, id, past)}>{name}</Link>
              </td>
              {hasWays && <td style={{ width: "36%" }}>{way}</td>}
              <td className={sheet.sub}>{detail}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {section.total > section.rows.length && (
        <p className={sheet.links}>
          <Link href={all}>All {section.total.toLocaleString("en-GB")}, with their ways</Link>
        </p>
      )}
    </section>
  );
}

const changeWords = { came: "It came into the register", changed: "It changed", went: "It was gone" };

function Margin({ object, past, mayEdit }: ViewProps) {
  const asked = question[object.kind];
  return (
    <>
      <h2>{kindWords[object.kind][1]}</h2>
      {asked && (
        <p>
          <Link href={`/inquiry?${asked.part}=${encodeURIComponent(`${object.kind}:${object.id}`)}${past === undefined ? "" : `&snapshot=${past}`}`}>
            {asked.words}
          </Link>
        </p>
      )}
      {(object.kind === "door" || object.kind === "area" || object.kind === "site") && past === undefined && (
        <p>
          <Link
            href={planAnswerAddress(
              { who: undefined, where: { kind: object.kind, id: object.id }, when: { kind: "any" }, lockdown: false },
              undefined,
              object.kind === "door" ? object.id : undefined,
            )}
          >
            On the plan
          </Link>
        </p>
      )}
      <WholeOnly>
        {(object.kind === "door" || object.kind === "credential" || object.kind === "cardholder") && past === undefined && (
          <p>
            <Link href={eventsHref({ about: { kind: object.kind, id: object.id } })}>Events</Link>
          </p>
        )}
      </WholeOnly>
      {mayEdit && past === undefined && (
        <p>
          <Link href={`/register/drafts?${new URLSearchParams({ list: listOfKind[object.kind], key: object.id })}`}>Try a change</Link>
        </p>
      )}
      {object.kind === "calendar" && (
        <WholeOnly>
          <p>
            <a href={`${objectHref(object.kind, object.id).split("?")[0]}/calendar${past === undefined ? "" : `?snapshot=${past}`}`} download>
              Save as iCalendar
            </a>
          </p>
        </WholeOnly>
      )}
      <dl className={sheet.facts}>
        {object.facts.map(({ title, text, link }) => (
          <div key={title} style={{ display: "contents" }}>
            <dt>{title}</dt>
            <dd>
              {link ? (
                <Link href={objectHref(link.kind, link.id, past)}>{text}</Link>
              ) : object.kind === "door" && title === controllerTitle ? (
                <UnitLink id={text} />
              ) : (
                text
              )}
            </dd>
          </div>
        ))}
      </dl>
      <div className={sheet.notes}>
        <h2>History</h2>
        {object.history.map(({ snapshot, what, values }) => (
          <div key={`${snapshot} ${what}`}>
            <span className={sheet.sub}>
              Snapshot <Link href={objectHref(object.kind, object.id, what === "went" ? snapshot - 1 : snapshot)}>{snapshot}</Link>
            </span>{" "}
            {changeWords[what]}
            {values.map(({ field, before, after }) => (
              <div key={field} className={sheet.sub}>
                {field.replaceAll("_", " ")}: {before ?? "nothing"} → {after ?? "nothing"}
              </div>
            ))}
          </div>
        ))}
      </div>
    </>
  );
}

const findingsTold = 3;

/** An object with everything that hangs on it, both ways. */
export function ObjectView({ object, past, mayEdit }: ViewProps) {
  const { year, schedule } = object;
  const grave = object.findings.length;
  const proof = findingsHref({
    past,
    ...(object.kind === "cardholder" ? { by: "cardholder" as const, key: `cardholder ${object.id}` } : { about: { kind: object.kind, id: object.id } }),
  });
  return (
    <Sheet question={<QuestionLine asked={nothingAsked} />} margin={year ? undefined : <Margin object={object} past={past} mayEdit={mayEdit} />}>
      <Heading
        result={object.name}
        reference={
          <>
            {past === undefined ? `Register of snapshot ${object.snapshot}` : `As it was in snapshot ${object.snapshot}`}{" "}
            <RecordLink of={{ object: `${listOfKind[object.kind]} ${object.id}` }} />
          </>
        }
        lead={
          year
            ? year.enteredUntil === undefined
              ? "All its entries repeat by themselves."
              : `Entered as far as ${formatCivilDay(year.enteredUntil)}; after that only the days that repeat by themselves.`
            : schedule
              ? schedule.words
              : object.sections.length === 0
                ? "Nothing in the register hangs on it."
                : undefined
        }
      />
      {grave > 0 && (
        <div className={sheet.grave}>
          <strong>{capital(plural(grave, "finding", "findings"))}.</strong>{" "}
          {object.findings
            .slice(0, findingsTold)
            .map((finding) => sentenceOfFinding(finding, object.timeZone))
            .join(" ")}
          {grave > findingsTold && ` And ${plural(grave - findingsTold, "other", "others")}.`} <Link href={proof}>Look at the proof</Link>
        </div>
      )}
      {object.reach && (
        <p>
          Opens{" "}
          <Link href={`/inquiry?who=${encodeURIComponent(`cardholder:${object.id}`)}${past === undefined ? "" : `&snapshot=${past}`}`}>
            {plural(object.reach.doors, "door", "doors")}
          </Link>{" "}
          at some time in the 13 months from the export
          {object.reach.sensitive > 0 ? `, ${object.reach.sensitive} of them into sensitive areas.` : ", none of them into a sensitive area."}
        </p>
      )}
      {schedule && <ScheduleView schedule={schedule} />}
      {year && <YearView year={year} margin={<Margin object={object} past={past} mayEdit={mayEdit} />} />}
      {object.sections.map((section) => (
        <Section key={section.kind} object={object} section={section} past={past} />
      ))}
    </Sheet>
  );
}
