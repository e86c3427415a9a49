"use client";

import { TextInput } from "@mantine/core";
import type { TextInputProps } from "@mantine/core";
import { typedDate } from "@/core/questions/typed-date";
import { dateHere } from "../../words/times";

interface DateTextInputProps extends Omit<TextInputProps, "value" | "onChange" | "onBlur"> {
  readonly value: string;
  readonly onText: (text: string) => void;
}

/** A field for a date, or for anything else that its fault names. A date may be typed in any usual way; how it was read stands in the field before anything is written. */
export function DateTextInput({ value, onText, ...shown }: DateTextInputProps) {
  return (
    <TextInput
      {...shown}
      value={value}
      onChange={(event) => onText(event.currentTarget.value)}
      onBlur={() => {
        const date = typedDate(value, dateHere());
        if (date !== undefined && date !== value) onText(date);
      }}
    />
  );
}
