"use client";

import { ActionIcon, Popover, TextInput } from "@mantine/core";
import type { TextInputProps } from "@mantine/core";
import { DatePicker } from "@mantine/dates";
import { useState } from "react";
import { typedMoment } from "@/core/questions/typed-moment";
import { zoneOf } from "@/core/time/zone";
import { dateHere, momentOnClock } from "../../words/times";

interface MomentInputProps extends Omit<TextInputProps, "value" | "onChange" | "onBlur" | "rightSection"> {
  /** As the document writes it, or what was typed and cannot be read; empty for none. */
  readonly value: string;
  /** The zone on whose clock times are shown and typed. */
  readonly timeZone: string;
  readonly onText: (text: string) => void;
}

/** A field for a date or a moment: shown and taken as people write it, with a picker. What cannot be read stays where it is, for whoever typed it to see. */
export function MomentInput({ value, timeZone, onText, ...shown }: MomentInputProps) {
  const [typed, setTyped] = useState<string>();
  const [picking, setPicking] = useState(false);
  const read = (text: string): string | undefined => typedMoment(text, dateHere(), zoneOf(timeZone));
  const picked = /^\d{4}-\d\d-\d\d/.exec(value)?.[0] ?? null;
  return (
    <TextInput
      {...shown}
      value={typed ?? momentOnClock(value, timeZone)}
      onChange={(event) => {
        const text = event.currentTarget.value;
        setTyped(text);
        onText(read(text) ?? text);
      }}
      onBlur={() => setTyped(undefined)}
      rightSection={
        <Popover opened={picking} onChange={setPicking} position="bottom-end" trapFocus withinPortal>
          <Popover.Target>
            <ActionIcon
              variant="subtle"
              size="sm"
              disabled={shown.disabled ?? false}
              aria-label={`Choose ${typeof shown.label === "string" ? shown.label : (shown["aria-label"] ?? "a date")} from a calendar`}
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
                setTyped(undefined);
                onText(date ?? "");
              }}
            />
          </Popover.Dropdown>
        </Popover>
      }
    />
  );
}
