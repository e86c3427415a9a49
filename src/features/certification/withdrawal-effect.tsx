"use client";

import type { ShownWithdrawal } from "@/operations/certification/withdrawals";
import { useFetched } from "@/ui/fetched";
import { withdrawalWords } from "../words/changes";
import classes from "./docket.module.css";

/** What withdrawing a line comes to, asked for when it is chosen: what is ordered, and what else is lost. */
export function WithdrawalEffect({ line }: { readonly line: number }) {
  const asked = useFetched<ShownWithdrawal>(`/docket/line/withdrawal?line=${line}`);
  if (asked.state === "awaited") return <p className={classes.effect}>Working out what else this takes away …</p>;
  if (asked.state === "failed") return <p className={classes.effect}>What else this takes away could not be worked out. Load the page again to see it.</p>;
  return <p className={classes.effect}>{withdrawalWords(asked.value)}</p>;
}
