"use client";

import { useEffect, useState } from "react";
import type { ShownWithdrawal } from "@/operations/certification/withdrawals";
import { withdrawalWords } from "../words/changes";
import classes from "./docket.module.css";

type Asked = { readonly state: "asked" } | { readonly state: "told"; readonly withdrawal: ShownWithdrawal } | { readonly state: "failed" };

/** What withdrawing a line comes to, asked for when it is chosen: what is ordered, and what else is lost. */
export function WithdrawalEffect({ line }: { readonly line: number }) {
  const [asked, setAsked] = useState<Asked>({ state: "asked" });
  useEffect(() => {
    const abort = new AbortController();
    fetch(`/docket/line/withdrawal?line=${line}`, { signal: abort.signal })
      .then(async (response) => setAsked(response.ok ? { state: "told", withdrawal: (await response.json()) as ShownWithdrawal } : { state: "failed" }))
      .catch(() => {
        if (!abort.signal.aborted) setAsked({ state: "failed" });
      });
    return () => abort.abort();
  }, [line]);
  if (asked.state === "asked") return <p className={classes.effect}>Working out what else this takes away …</p>;
  if (asked.state === "failed") return <p className={classes.effect}>What else this takes away could not be worked out. Load the page again to see it.</p>;
  return <p className={classes.effect}>{withdrawalWords(asked.withdrawal)}</p>;
}
