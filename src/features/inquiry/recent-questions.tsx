"use client";

import Link from "next/link";
import { useEffect, useSyncExternalStore } from "react";
import { useSeeing } from "../shell/seeing";
import { whenShort } from "../words/when";
import { questionAddress } from "./address";
import classes from "./inquiry.module.css";
import { modesClause } from "./modes";
import type { AskedQuestion } from "./question-line";

/** Each account has its own: somebody else may sign in later in the same window. */
const storeOf = (signIn: string): string => `nomade.asked.${signIn}`;
const remembered = 8;

interface RecentQuestion {
  readonly href: string;
  readonly sentence: string;
}

/** What is written down; "[]" where nothing is, or nothing can be. */
function written(store: string): string {
  try {
    return window.sessionStorage.getItem(store) ?? "[]";
  } catch {
    return "[]";
  }
}

function recentIn(text: string): RecentQuestion[] {
  try {
    const found: unknown = JSON.parse(text);
    return Array.isArray(found) ? (found as RecentQuestion[]).filter(({ href, sentence }) => href.startsWith("/inquiry?") && typeof sentence === "string") : [];
  } catch {
    return [];
  }
}

/** Remembers what was asked, for as long as the window is open. */
export function Remembered({ asked: { inquiry, names } }: { readonly asked: AskedQuestion }) {
  const store = storeOf(useSeeing().signIn);
  const href = questionAddress(inquiry);
  const when = inquiry.when.kind === "any" ? "" : `, ${whenShort(inquiry.when)}`;
  const sentence = `${names.who ?? "Who"} opens ${names.where ?? "what"}${when}${modesClause(inquiry)}?`;
  useEffect(() => {
    try {
      window.sessionStorage.setItem(
        store,
        JSON.stringify([{ href, sentence }, ...recentIn(written(store)).filter((one) => one.href !== href)].slice(0, remembered)),
      );
    } catch {
      // Where nothing can be kept, nothing is remembered.
    }
  }, [store, href, sentence]);
  return null;
}

const never = (): (() => void) => () => undefined;

/** What was asked before in this window, the latest first. */
export function RecentQuestions() {
  // Only the browser knows: what the server sends has none. Nothing is asked while this is shown.
  const store = storeOf(useSeeing().signIn);
  const asked = recentIn(
    useSyncExternalStore(
      never,
      () => written(store),
      () => "[]",
    ),
  );
  if (asked.length === 0) return null;
  return (
    <section aria-label="Asked before">
      <h2 className={classes.section}>Asked before in this window</h2>
      <ul className={classes.examples}>
        {asked.map(({ href, sentence }) => (
          <li key={href}>
            <Link href={href}>{sentence}</Link>
          </li>
        ))}
      </ul>
    </section>
  );
}
