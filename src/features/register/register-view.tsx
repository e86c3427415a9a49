"use client";

import { Button, TextInput } from "@mantine/core";
import { useDebouncedCallback } from "@mantine/hooks";
import Link from "next/link";
import { useRouter } from "next/navigation";
import type { ObjectKind, RegisterItem } from "@/operations/ports";
import { Heading, Sheet } from "@/ui/sheet";
import sheet from "@/ui/sheet.module.css";
import { nothingAsked, QuestionLine } from "../inquiry/question-line";

const kinds: readonly (readonly [ObjectKind, string])[] = [
  ["cardholder", "Cardholders"],
  ["credential", "Credentials"],
  ["door", "Doors"],
  ["area", "Areas"],
  ["group", "Departments and groups"],
  ["level", "Access levels"],
  ["schedule", "Schedules"],
  ["calendar", "Calendars"],
];

const listAddress = (kind: ObjectKind, text: string, from = 0): string => {
  const query = new URLSearchParams({ kind });
  if (text !== "") query.set("text", text);
  if (from > 0) query.set("from", String(from));
  return `/register?${query}`;
};

const question: Partial<Record<ObjectKind, (id: string) => { href: string; words: string }>> = {
  cardholder: (id) => ({ href: `/inquiry?who=${encodeURIComponent(`cardholder:${id}`)}`, words: "What do they open?" }),
  credential: (id) => ({ href: `/inquiry?who=${encodeURIComponent(`credential:${id}`)}`, words: "What does it open?" }),
  door: (id) => ({ href: `/inquiry?where=${encodeURIComponent(`door:${id}`)}`, words: "Who opens it?" }),
  area: (id) => ({ href: `/inquiry?where=${encodeURIComponent(`area:${id}`)}`, words: "Who opens it?" }),
};

export interface RegisterViewProps {
  readonly kind: ObjectKind;
  readonly text: string;
  readonly from: number;
  readonly pageSize: number;
  readonly items: readonly RegisterItem[];
  readonly total: number;
  readonly reference: string;
}

/** What is in the register, found by any part of any field, a page at a time. */
export function RegisterView({ kind, text, from, pageSize, items, total, reference }: RegisterViewProps) {
  const router = useRouter();
  const find = useDebouncedCallback((wanted: string) => router.replace(listAddress(kind, wanted)), 250);
  const name = kinds.find(([key]) => key === kind)?.[1] ?? kind;
  const result = total === 0 && text !== "" ? `No ${name.toLowerCase()} with “${text}” in any field` : `${total.toLocaleString("en-GB")} ${name.toLowerCase()}${text === "" ? "" : ` with “${text}”`}`;
  return (
    <Sheet question={<QuestionLine asked={nothingAsked} />}>
      <Heading result={result} reference={reference} />
      <nav className={sheet.links} aria-label="Kinds">
        {kinds.map(([key, words]) =>
          key === kind ? (
            <span key={key} className={sheet.current} aria-current="page">
              {words}
            </span>
          ) : (
            <Link key={key} href={listAddress(key, text)}>
              {words}
            </Link>
          ),
        )}
      </nav>
      <TextInput
        aria-label={`Find among ${name.toLowerCase()}`}
        placeholder="any part of any field"
        defaultValue={text}
        key={`${kind} find`}
        onChange={(event) => find(event.currentTarget.value)}
        w={360}
        mb="sm"
      />
      {total === 0 ? (
        <p>
          {text === "" ? "None came with the last intake." : <Button variant="default" onClick={() => router.replace(listAddress(kind, ""))}>Show all again</Button>}
        </p>
      ) : (
        <table className={sheet.table}>
          <thead>
            <tr>
              <th scope="col">Name</th>
              <th scope="col">Id</th>
              <th scope="col">{kind === "cardholder" || kind === "credential" ? "Status" : ""}</th>
              <th scope="col">Question</th>
            </tr>
          </thead>
          <tbody>
            {items.map((item) => {
              const asked = question[kind]?.(item.id);
              return (
                <tr key={item.id}>
                  <td>
                    <b>{item.name}</b>
                    <div className={sheet.sub}>{item.detail}</div>
                  </td>
                  <td>{item.id}</td>
                  <td>{item.status}</td>
                  <td>{asked && <Link href={asked.href}>{asked.words}</Link>}</td>
                </tr>
              );
            })}
          </tbody>
        </table>
      )}
      <p className={sheet.links}>
        {from > 0 && <Link href={listAddress(kind, text, Math.max(0, from - pageSize))}>Before these</Link>}
        {total > 0 && (
          <span className={sheet.sub}>
            {from + 1} to {Math.min(total, from + items.length)} of {total.toLocaleString("en-GB")}
          </span>
        )}
        {from + items.length < total && <Link href={listAddress(kind, text, from + pageSize)}>After these</Link>}
      </p>
    </Sheet>
  );
}
