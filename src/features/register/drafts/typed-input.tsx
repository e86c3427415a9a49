"use client";

import { TextInput } from "@mantine/core";
import type { TextInputProps } from "@mantine/core";
import { useState } from "react";

export interface TypedInputProps extends Omit<TextInputProps, "value" | "onChange" | "onBlur"> {
  /** As the document writes it, or what was typed and cannot be read; empty for none. */
  readonly value: string;
  readonly onText: (text: string) => void;
}

/** A field that shows and takes what a document writes as people write it. What cannot be read stays where it is, for whoever typed it to see. */
export function TypedInput({
  value,
  onText,
  show,
  read,
  ...shown
}: TypedInputProps & { readonly show: (value: string) => string; readonly read: (text: string) => string | undefined }) {
  const [typed, setTyped] = useState<{ readonly text: string; readonly gave: string }>();
  return (
    <TextInput
      {...shown}
      // What was set from elsewhere meanwhile, as by a picker, takes the place of what is being typed.
      value={typed?.gave === value ? typed.text : show(value)}
      onChange={(event) => {
        const text = event.currentTarget.value;
        const gave = read(text) ?? text;
        setTyped({ text, gave });
        onText(gave);
      }}
      onBlur={() => setTyped(undefined)}
    />
  );
}
