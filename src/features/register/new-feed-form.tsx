"use client";

import { Button, TextInput } from "@mantine/core";
import { useState } from "react";
import { useAction } from "@/ui/use-action";
import classes from "./register.module.css";
import { NewToken } from "./feed-section";

/** Lets a source push people: its name, and a token that is shown once. */
export function NewFeedForm({ address, makeToken }: { readonly address: string; readonly makeToken: (source: string) => Promise<string | undefined> }) {
  const [source, setSource] = useState("");
  const [token, setToken] = useState<string>();
  const { busy, run } = useAction();
  return (
    <section aria-label="Let a source push people">
      <h2 className={classes.section}>Let a source push people</h2>
      <p style={{ margin: "0 0 6px", maxWidth: 720 }}>
        A personnel system that speaks SCIM 2.0 can push joiners, movers and leavers as they come. What it pushes is collected, and becomes part of the register
        by an intake, with its effect shown before.
      </p>
      <div className={classes.rhythm}>
        <TextInput
          size="xs"
          w={280}
          label="Name of the source"
          placeholder="personnel"
          maxLength={255}
          value={source}
          onChange={(event) => setSource(event.currentTarget.value)}
        />
        <Button size="xs" disabled={source.trim() === ""} loading={busy} onClick={() => run(async () => setToken(await makeToken(source.trim())))}>
          Make a token
        </Button>
      </div>
      {token !== undefined && <NewToken token={token} address={address} />}
    </section>
  );
}
