"use client";

import { Button, NumberInput } from "@mantine/core";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useState } from "react";
import type { RetentionKind } from "@/core/evidence/retention";
import { fewestMonths, mostMonths } from "@/core/evidence/retention";
import type { ShownRetention } from "@/operations/administration/retention";
import { Heading, Sheet } from "@/ui/sheet";
import sheet from "@/ui/sheet.module.css";
import { useAction } from "@/ui/use-action";
import { nothingAsked, QuestionLine } from "../inquiry/question-line";
import { capital, countWords, plural } from "../words/numbers";
import { clockText } from "../words/times";
import { RecordLink } from "./record-link";

/** What each kind is, what goes, and what stays of it; and what it is counted in. */
const told: Readonly<Record<RetentionKind, { readonly name: string; readonly goes: string; readonly one: string; readonly many: string }>> = {
  rounds: {
    name: "Closed rounds",
    goes: "From the day a round was closed: its dockets whole, with lines, decisions, reasons, comments, orders and closing checks. The hash of each docket stays. A round stays while something that it withdrew is not known to be gone.",
    one: "round",
    many: "rounds",
  },
  snapshots: {
    name: "Snapshots",
    goes: "From the day a snapshot was taken in: its document, the rows of the register that stand in no later one, its findings. Its hash stays. A snapshot stays while a round that is kept speaks of it, or an earlier snapshot has to stay.",
    one: "snapshot",
    many: "snapshots",
  },
  events: {
    name: "Events",
    goes: "From the day of the event, whole months: the events and all that was counted of them, as if they had never been taken in. Rules then say that they cannot tell of that time.",
    one: "event",
    many: "events",
  },
  leavers: {
    name: "People who left",
    goes: "From the day they left: who looked them up, and what entries on drafts say of them. They stand in snapshots and rounds for as long as these are kept.",
    one: "entry or look-up",
    many: "entries and look-ups",
  },
  values: {
    name: "Values in the record",
    goes: "From the day of the entry: what stood before and after. The entry itself stays, and so do values on which a snapshot, a round or an account that is kept rests.",
    one: "entry",
    many: "entries",
  },
};

const order: readonly RetentionKind[] = ["rounds", "snapshots", "events", "leavers", "values"];

function Row({ shown, set }: { readonly shown: ShownRetention; readonly set: RetentionViewProps["set"] }) {
  const router = useRouter();
  const { kind, setting, due, appliesFrom } = shown;
  const { busy, refused, run } = useAction();
  const [months, setMonths] = useState<number | string>(setting?.months ?? "");
  const { name, goes, one, many } = told[kind];
  const isSame = months === (setting?.months ?? "");
  return (
    <tr>
      <td>
        <b>{name}</b>
        <div className={sheet.sub} style={{ maxWidth: 440 }}>
          {goes}
        </div>
      </td>
      <td>
        {set ? (
          <NumberInput
            size="xs"
            w={130}
            aria-label={`Months for which ${name.toLowerCase()} are kept`}
            placeholder="for ever"
            min={fewestMonths[kind]}
            max={mostMonths}
            clampBehavior="none"
            allowDecimal={false}
            suffix={months === 1 ? " month" : " months"}
            value={months}
            onChange={setMonths}
          />
        ) : setting ? (
          plural(setting.months, "month", "months")
        ) : (
          "for ever"
        )}
        {set && !isSame && (
          <Button
            size="xs"
            mt={6}
            loading={busy}
            onClick={() =>
              run(async () => {
                const why = await set(kind, months === "" ? undefined : Number(months));
                if (why === undefined) router.refresh();
                return why;
              })
            }
          >
            Set it
          </Button>
        )}
        {refused !== undefined && (
          <p role="alert" className={sheet.grave}>
            {refused}
          </p>
        )}
      </td>
      <td className={sheet.sub}>
        {setting ? (
          <>
            {due === 0
              ? "Nothing is past its time."
              : `${capital(plural(due, `${one} is`, `${many} are`))} past the time${appliesFrom ? `, and will go after ${clockText(appliesFrom)}` : ""}.`}
            <div>
              Set by {setting.setBy}, {clockText(setting.setAt)}.
            </div>
          </>
        ) : (
          "Nothing goes."
        )}
      </td>
    </tr>
  );
}

interface RetentionViewProps {
  readonly kinds: readonly ShownRetention[];
  /** Sets one, and gives why it could not be; undefined for who may only look. */
  readonly set: ((kind: RetentionKind, months: number | undefined) => Promise<string | undefined>) | undefined;
}

/** For how long what is personal is kept, and what goes after that. */
export function RetentionView({ kinds, set }: RetentionViewProps) {
  const limited = kinds.filter(({ setting }) => setting).length;
  return (
    <Sheet question={<QuestionLine asked={nothingAsked} />}>
      <Heading
        result={
          limited === 0
            ? "Everything is kept for ever"
            : `${capital(countWords(limited))} of ${countWords(kinds.length)} kinds ${limited === 1 ? "is" : "are"} kept for some time only`
        }
        reference={
          <>
            <Link href="/evidence">The record</Link> · <RecordLink of={{ text: "past its time" }} words="What was let go" />
          </>
        }
        lead="What is past its time goes once a day, and nobody brings it back. A time that was set is applied a day later, so that a slip can be taken back. The record’s chain holds all the same, and says what went."
      />
      <table className={sheet.table}>
        <thead>
          <tr>
            <th scope="col">What</th>
            <th scope="col">Kept for</th>
            <th scope="col">By now</th>
          </tr>
        </thead>
        <tbody>
          {order.map((kind) => {
            const shown = kinds.find((one) => one.kind === kind);
            return shown && <Row key={`${kind} ${shown.setting?.months ?? ""}`} shown={shown} set={set} />;
          })}
        </tbody>
      </table>
    </Sheet>
  );
}
