"use client";

import { Button, NumberInput } from "@mantine/core";
import { useRouter } from "next/navigation";
import { useState } from "react";
import type { OccasionKind } from "@/core/certification/occasions";
import type { OccasionRule } from "@/operations/ports/rounds";
import { Heading, Sheet } from "@/ui/sheet";
import sheet from "@/ui/sheet.module.css";
import { useAction } from "@/ui/use-action";
import { nothingAsked, QuestionLine } from "../inquiry/question-line";
import { RecordLink } from "../evidence/record-link";
import { capital, countWords, plural } from "../words/numbers";

const told: readonly { readonly kind: OccasionKind; readonly name: string; readonly asks: string }[] = [
  { kind: "moved", name: "Somebody changes department", asks: "All that they open, to whoever certifies them now." },
  { kind: "renewed", name: "A contract is renewed", asks: "All that a contractor opens whose end was put off or taken away." },
  {
    kind: "sensitive",
    name: "Access to a sensitive area is new",
    asks: "The areas of sensitivity 2 or more that somebody opens since the last intake, however that came.",
  },
  { kind: "waiver-ended", name: "A waiver ends", asks: "The lines that tell of the finding which it hid." },
];

function Row({
  kind,
  name,
  asks,
  rule,
  set,
}: {
  readonly kind: OccasionKind;
  readonly name: string;
  readonly asks: string;
  readonly rule: OccasionRule | undefined;
  readonly set: ((kind: OccasionKind, days: number | undefined) => Promise<string | undefined>) | undefined;
}) {
  const router = useRouter();
  const { busy, refused, run } = useAction();
  const [days, setDays] = useState<number | string>(rule?.days ?? "");
  const isSame = (rule?.days ?? "") === days;
  return (
    <tr>
      <td>
        {name}
        <div className={sheet.sub}>{asks}</div>
      </td>
      <td>
        {set ? (
          <NumberInput aria-label={`${name}: due in days`} placeholder="never" min={1} max={365} allowDecimal={false} value={days} onChange={setDays} w={110} />
        ) : rule === undefined ? (
          "never"
        ) : (
          `within ${plural(rule.days, "day", "days")}`
        )}
      </td>
      <td>
        {rule && <div className={sheet.sub}>by {rule.setBy.name}</div>}
        {set && !isSame && (
          <Button
            size="xs"
            loading={busy}
            onClick={() =>
              run(async () => {
                const why = await set(kind, days === "" ? undefined : Number(days));
                if (why === undefined) router.refresh();
                return why;
              })
            }
          >
            Keep it
          </Button>
        )}
        {refused !== undefined && (
          <p role="alert" className={sheet.grave}>
            {refused}
          </p>
        )}
      </td>
    </tr>
  );
}

/** What asks for a decision at once, between rounds, and within how many days. */
export function OccasionsView({
  rules,
  set,
}: {
  readonly rules: readonly OccasionRule[];
  /** Sets one, and gives why it could not be; undefined for who may only look. */
  readonly set: ((kind: OccasionKind, days: number | undefined) => Promise<string | undefined>) | undefined;
}) {
  return (
    <Sheet question={<QuestionLine asked={nothingAsked} />}>
      <Heading
        result={rules.length === 0 ? "Nothing asks for a decision between rounds" : `${capital(countWords(rules.length))} of four occasions ask for a decision`}
        reference={<RecordLink of={{ what: "occasion.set" }} />}
        lead="After an intake, each occasion that is set opens a small round of just the lines that it is about, for whoever certifies them."
      />
      <table className={sheet.table} style={{ maxWidth: 820 }}>
        <thead>
          <tr>
            <th scope="col">Occasion</th>
            <th scope="col">Due in days</th>
            <th scope="col">Set</th>
          </tr>
        </thead>
        <tbody>
          {told.map((one) => (
            <Row key={one.kind} {...one} rule={rules.find(({ kind }) => kind === one.kind)} set={set} />
          ))}
        </tbody>
      </table>
    </Sheet>
  );
}
