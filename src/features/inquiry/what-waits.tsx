import Link from "next/link";
import { unreachable } from "@/core/kernel/invariant";
import type { Waiting } from "@/operations/administration/what-waits";
import sheet from "@/ui/sheet.module.css";
import { findingHref } from "../findings/findings-address";
import { momentWords } from "../words/times";

function wordsOf({ kind, about, by }: Waiting): string {
  switch (kind) {
    case "waiver":
      return `A waiver by ${by}: “${about}”`;
    case "rules":
      return `A change by ${by} of how rules judge`;
    case "closing":
      return `Closing “${about}” before all is signed, as ${by} asks`;
    case "arrival":
      return `${about}, which ${by} sent, waits to be looked at`;
    case "docket":
      return `Your docket of “${about}”, due ${momentWords(by)}`;
    default:
      return unreachable(kind);
  }
}

function hrefOf({ kind, of }: Waiting): string {
  switch (kind) {
    case "waiver":
      return findingHref(of, undefined);
    case "rules":
      return "/findings/settings";
    case "closing":
      return `/certification/${of}`;
    case "arrival":
      return `/intake?waiting=${of}`;
    case "docket":
      return `/docket/${of}`;
    default:
      return unreachable(kind);
  }
}

const shown = 8;

/** What waits for a second person, for whoever looks at it first; nothing where nothing waits. */
export function WhatWaits({ waiting }: { readonly waiting: readonly Waiting[] }) {
  if (waiting.length === 0) return null;
  const [own, others] = [waiting.filter(({ isForYou }) => isForYou), waiting.filter(({ isForYou }) => !isForYou)];
  const list = (some: readonly Waiting[]) => (
    <ul>
      {some.slice(0, shown).map((one) => (
        <li key={`${one.kind} ${one.of}`}>
          <Link href={hrefOf(one)}>{wordsOf(one)}</Link>
        </li>
      ))}
      {some.length > shown && <li className={sheet.sub}>and {some.length - shown} more</li>}
    </ul>
  );
  return (
    <section aria-label="What waits">
      {own.length > 0 && (
        <>
          <h2>Waits for you</h2>
          {list(own)}
        </>
      )}
      {others.length > 0 && (
        <>
          <h2>Waits for somebody else</h2>
          {list(others)}
        </>
      )}
    </section>
  );
}
