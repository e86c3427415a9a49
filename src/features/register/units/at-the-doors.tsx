"use client";

import { Button, Select, TextInput } from "@mantine/core";
import { useForm } from "@mantine/form";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useState } from "react";
import type { Presented } from "@/core/units/decide-at-unit";
import type { UnitEvent } from "@/core/units/unit-protocol";
import type { AtTheDoor, UnitTreatment } from "@/operations/units/at-the-doors";
import type { ShownUnit } from "@/operations/units/show-units";
import sheet from "@/ui/sheet.module.css";
import { useAction } from "@/ui/use-action";
import { eventsHref } from "../../events/events-address";
import { clockText } from "../../words/times";
import { unitReasonWords } from "../../words/unit-reasons";
import classes from "./units.module.css";

export interface DoorActions {
  readonly present: (unit: string, presented: Presented) => Promise<AtTheDoor>;
  readonly disturb: (unit: string, door: string, what: "forced" | "held") => Promise<AtTheDoor>;
  readonly treat: (unit: string, treatment: UnitTreatment) => Promise<string | undefined>;
}

const pins = [
  { value: "none", label: "no PIN" },
  { value: "right", label: "the right PIN" },
  { value: "wrong", label: "a wrong PIN" },
  { value: "duress", label: "the PIN for duress" },
];
const isPin = (text: string): text is "right" | "wrong" | "duress" => text === "right" || text === "wrong" || text === "duress";
const anotherNumber = "another number";

interface Typed {
  readonly door: string;
  readonly card: string;
  readonly number: string;
  readonly facilityCode: string;
  readonly pin: string;
}

/** What the unit did, as its event tells it. */
function ToldEvent({ event, doorName }: { readonly event: UnitEvent; readonly doorName: string }) {
  return (
    <div className={classes.told} role="status">
      <b>{event.granted ? "Let in" : "Refused"}</b> at {doorName}: {unitReasonWords(event.reason)}.
      <div className={sheet.sub}>{clockText(event.at)} by the unit’s clock</div>
    </div>
  );
}

/** The doors of a stand-in, and a pocket of cards to present there. */
export function AtTheDoors({ unit, actions }: { readonly unit: ShownUnit; readonly actions: DoorActions }) {
  const router = useRouter();
  const { busy, refused, run } = useAction();
  const [told, setTold] = useState<readonly UnitEvent[]>([]);
  const { id, doors, standing } = unit.line;
  const form = useForm<Typed>({
    initialValues: { door: doors[0]?.id ?? "", card: unit.pocket[0]?.id ?? anotherNumber, number: "", facilityCode: "", pin: "none" },
    validate: { number: (number, { card }) => (card === anotherNumber && number.trim() === "" ? "Type a number." : null) },
  });
  const tell = (work: () => Promise<AtTheDoor>): void =>
    run(async () => {
      const done = await work();
      if ("failed" in done) return done.failed;
      setTold((before) => [done.event, ...before].slice(0, 6));
      router.refresh();
      return undefined;
    });
  const present = form.onSubmit(({ door, card, number, facilityCode, pin }) =>
    tell(() =>
      actions.present(id, {
        door,
        ...(card === anotherNumber ? { number: number.trim(), ...(facilityCode.trim() !== "" && { facilityCode: facilityCode.trim() }) } : { card }),
        ...(isPin(pin) && { pin }),
      }),
    ),
  );
  const treat = (treatment: UnitTreatment): void =>
    run(async () => {
      const words = await actions.treat(id, treatment);
      router.refresh();
      return words;
    });
  const { door } = form.getValues();
  const nameOf = (wanted: string): string => doors.find((one) => one.id === wanted)?.name ?? wanted;
  return (
    <section aria-labelledby="at-the-doors">
      <h2 id="at-the-doors">At its doors</h2>
      <p className={sheet.sub}>This unit is a stand-in: what is done here happens at it, and comes back as an event.</p>
      <form onSubmit={present} className={classes.stack} noValidate>
        <Select
          label="Door"
          size="xs"
          allowDeselect={false}
          searchable
          data={doors.map((one) => ({ value: one.id, label: one.name }))}
          {...form.getInputProps("door")}
        />
        <Select
          label="Card"
          size="xs"
          allowDeselect={false}
          searchable
          data={[
            ...unit.pocket.map((card) => ({ value: card.id, label: `${card.holder ?? "nobody’s"}, ${card.label}${card.hasPin ? ", with PIN" : ""}` })),
            { value: anotherNumber, label: "another number" },
          ]}
          {...form.getInputProps("card")}
        />
        {form.getValues().card === anotherNumber && (
          <>
            <TextInput label="Number" size="xs" {...form.getInputProps("number")} />
            <TextInput label="Facility code" size="xs" {...form.getInputProps("facilityCode")} />
          </>
        )}
        <Select label="PIN" size="xs" allowDeselect={false} data={pins} {...form.getInputProps("pin")} />
        <div className={classes.side}>
          <Button type="submit" size="xs" loading={busy} disabled={door === ""}>
            Present it
          </Button>
          <Button size="xs" variant="default" disabled={busy || door === ""} onClick={() => tell(() => actions.disturb(id, door, "forced"))}>
            Force the door
          </Button>
          <Button size="xs" variant="default" disabled={busy || door === ""} onClick={() => tell(() => actions.disturb(id, door, "held"))}>
            Hold it open
          </Button>
        </div>
      </form>
      {refused !== undefined && <p role="alert">{refused}</p>}
      {told.map((event) => (
        <ToldEvent key={event.number} event={event} doorName={nameOf(event.door)} />
      ))}
      <p className={sheet.links}>
        <Link href={eventsHref({ about: { kind: "door", id: door } })}>Events of this door</Link>
      </p>
      <p className={sheet.links}>
        <Button
          size="compact-xs"
          variant="default"
          disabled={busy}
          onClick={() => treat({ isOffline: standing !== "silent" && unit.line.problem === undefined })}
        >
          {standing === "silent" || unit.line.problem !== undefined ? "Put it online" : "Take it offline"}
        </Button>
        <Button size="compact-xs" variant="default" disabled={busy} onClick={() => treat({ clockOff: 3600 })}>
          Put its clock an hour on
        </Button>
      </p>
    </section>
  );
}
