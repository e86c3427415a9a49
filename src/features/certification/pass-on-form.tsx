"use client";

import { Button, Select, Textarea } from "@mantine/core";
import { useState } from "react";
import type { OtherCertifier } from "@/operations/certification/show-docket";
import type { DocketWords } from "../words/docket/docket-words";
import classes from "./docket.module.css";

/** To whom a line is passed on: another certifier of the round. */
export function PassOnForm({
  others,
  words,
  passOn,
}: {
  readonly others: readonly OtherCertifier[];
  readonly words: DocketWords;
  readonly passOn: (to: number, reason: string) => void;
}) {
  const [to, setTo] = useState<string | null>(null);
  const [reason, setReason] = useState("");
  return (
    <fieldset className={classes.narrow}>
      <Select
        label={words.passOnTo}
        data={others.map(({ docket, name }) => ({ value: String(docket), label: name ?? words.reviewer }))}
        value={to}
        onChange={setTo}
        searchable
      />
      <Textarea label={words.passOnWhy} value={reason} onChange={(event) => setReason(event.currentTarget.value)} autosize mt="xs" />
      <Button mt="sm" disabled={to === null} onClick={() => to !== null && passOn(Number(to), reason)}>
        {words.doPassOn}
      </Button>
    </fieldset>
  );
}
