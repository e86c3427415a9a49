"use client";

import { ActionIcon, Popover } from "@mantine/core";
import { DatePicker } from "@mantine/dates";
import { useState } from "react";
import { typedDate } from "@/core/questions/typed-date";
import { typedMoment } from "@/core/questions/typed-moment";
import { zoneOf } from "@/core/time/zone";
import { dateHere, momentOnClock } from "../../words/times";
import { TypedInput } from "./typed-input";
import type { TypedInputProps } from "./typed-input";

interface MomentInputProps extends Omit<TypedInputProps, "rightSection"> {
  /** The zone on whose clock times are shown and typed; undefined where only a date is expected. */
  readonly timeZone: string | undefined;
}

/** A field for a date or a moment, with a picker. */
export function MomentInput({ timeZone, ...shown }: MomentInputProps) {
  const { value, onText, label, disabled } = shown;
  const [picking, setPicking] = useState(false);
  const picked = /^\d{4}-\d\d-\d\d/.exec(value)?.[0] ?? null;
  return (
    <TypedInput
      {...shown}
      show={(written) => momentOnClock(written, timeZone ?? "UTC")}
      read={(text) => (timeZone === undefined ? typedDate(text, dateHere()) : typedMoment(text, dateHere(), zoneOf(timeZone)))}
      rightSection={
        <Popover opened={picking} onChange={setPicking} position="bottom-end" trapFocus withinPortal>
          <Popover.Target>
            <ActionIcon
              variant="subtle"
              size="sm"
              disabled={disabled ?? false}
              aria-label={`Choose ${typeof label === "string" ? label : (shown["aria-label"] ?? "a date")} from a calendar`}
              onClick={() => setPicking(!picking)}
            >
              <span aria-hidden>▾</span>
            </ActionIcon>
          </Popover.Target>
          <Popover.Dropdown>
            <DatePicker
              value={picked}
              defaultDate={picked ?? undefined}
              onChange={(date) => {
                setPicking(false);
                onText(date ?? "");
              }}
            />
          </Popover.Dropdown>
        </Popover>
      }
    />
  );
}
