"use client";

import { Loader, Select, TextInput, UnstyledButton } from "@mantine/core";
import { useDebouncedCallback } from "@mantine/hooks";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useState, useTransition } from "react";
import { registerKinds } from "@/core/register/kinds";
import type { ListedColumn, ListPage } from "@/operations/register/list-register";
import { Heading, Sheet } from "@/ui/sheet";
import sheet from "@/ui/sheet.module.css";
import { nothingAsked, QuestionLine } from "../inquiry/question-line";
import { WholeOnly } from "../shell/seeing";
import { kindWords } from "../words/register-words";
import { clockText } from "../words/times";
import { ColumnChoice } from "./column-choice";
import type { ListAddress } from "./list-address";
import { listHref, listOf, listQuery, objectHref } from "./list-address";
import classes from "./register.module.css";
import { RowsTable } from "./rows-table";

export interface RegisterViewProps {
  readonly address: ListAddress;
  readonly first: ListPage;
  readonly snapshots: readonly { readonly id: number; readonly takenAt: string }[];
}

/** The empty value has to be chosen, too; it is written so where a text is needed. */
const written = (value: string): string => (value === "" ? "(none)" : value);
const chosen = (text: string): string => (text === "(none)" ? "" : text);

function resultWords({ kind, text, filters }: ListAddress, { total, all, ofName }: ListPage): string {
  const many = kindWords[kind][0].toLowerCase();
  const narrowed = text !== "" || Object.keys(filters).length > 0;
  const of = ofName === undefined ? "" : `, ${ofName}`;
  if (total === 0 && narrowed) return `None of ${all.toLocaleString("en-GB")} ${many}${of} fits`;
  return narrowed ? `${total.toLocaleString("en-GB")} of ${all.toLocaleString("en-GB")} ${many}${of}` : `${total.toLocaleString("en-GB")} ${many}${of}`;
}

/** So many stand in one line with the search; every column can be filtered by its address, and those in use are always shown. */
const filtersOffered = 4;

function Filters({
  columns,
  address,
  go,
}: {
  readonly columns: readonly ListedColumn[];
  readonly address: ListAddress;
  readonly go: (change: Partial<ListAddress>) => void;
}) {
  return columns
    .filter(({ key, shown, choices }) => choices && (address.filters[key] !== undefined || (shown && choices.length > 1)))
    .filter(({ key }, i) => i < filtersOffered || address.filters[key] !== undefined)
    .map(({ key, title, choices = [] }) => (
      <Select
        key={key}
        size="xs"
        w={150}
        aria-label={`${title} is`}
        placeholder={title}
        searchable
        clearable
        value={address.filters[key] === undefined ? null : written(address.filters[key])}
        data={choices.map(({ value, count }) => ({ value: written(value), label: `${written(value)}  ${count.toLocaleString("en-GB")}` }))}
        onChange={(value) => {
          const { [key]: _before, ...others } = address.filters;
          go({ filters: value === null ? others : { ...others, [key]: chosen(value) } });
        }}
        comboboxProps={{ width: 280, position: "bottom-start" }}
      />
    ));
}

/** What is in the register: found by any part of any field, narrowed, ordered, broken up, all the way down. */
export function RegisterView({ address, first, snapshots }: RegisterViewProps) {
  const router = useRouter();
  const [waiting, startWaiting] = useTransition();
  const [text, setText] = useState(address.text);
  const go = (change: Partial<ListAddress>): void => startWaiting(() => router.replace(listHref({ ...address, ...change }), { scroll: false }));
  const find = useDebouncedCallback((wanted: string) => go({ text: wanted }), 200);
  const { kind } = address;
  const query = listQuery(address).toString();
  const isFiltered = address.text !== "" || Object.keys(address.filters).length > 0;
  const clear = (): void => {
    setText("");
    go({ text: "", filters: {} });
  };
  return (
    <Sheet question={<QuestionLine asked={nothingAsked} />}>
      <Heading
        result={resultWords(address, first)}
        reference={
          <span className={classes.asOf}>
            {address.snapshot === undefined ? `Register of snapshot ${first.snapshot}` : `As it was in snapshot ${first.snapshot}`}
            {snapshots.length > 1 && (
              <Select
                size="xs"
                w={210}
                aria-label="As it was in"
                value={String(first.snapshot)}
                data={snapshots.map(({ id, takenAt }, i) => ({ value: String(id), label: `${id}, ${clockText(takenAt)}${i === 0 ? ", now" : ""}` }))}
                onChange={(value) => go({ snapshot: value === null || Number(value) === snapshots[0]?.id ? undefined : Number(value) })}
              />
            )}
          </span>
        }
      />
      <nav className={sheet.links} aria-label="Kinds">
        {registerKinds.map((key) =>
          key === kind ? (
            <span key={key} className={sheet.current} aria-current="page">
              {kindWords[key][0]}
            </span>
          ) : (
            <Link key={key} href={listHref(listOf(key, { text: address.text, snapshot: address.snapshot }))}>
              {kindWords[key][0]}
            </Link>
          ),
        )}
        <WholeOnly>
          <div className={classes.besideKinds}>
            <Link href="/register/events">Events</Link>
            <Link href="/register/sources">Sources</Link>
            <Link href="/register/units">Units</Link>
            <Link href="/register/plans">Plans</Link>
            <Link href="/register/drafts">Try a change</Link>
          </div>
        </WholeOnly>
      </nav>
      {address.of && (
        <p className={sheet.sub}>
          Only what hangs on <Link href={objectHref(address.of.kind, address.of.id, address.snapshot)}>{first.ofName}</Link>, with the way.{" "}
          <Link href={listHref({ ...address, of: undefined })}>Show all {kindWords[kind][0].toLowerCase()}</Link>
        </p>
      )}
      <div className={classes.tools}>
        <TextInput
          aria-label={`Find among ${kindWords[kind][0].toLowerCase()}`}
          placeholder="any part of any field"
          value={text}
          onChange={(event) => {
            setText(event.currentTarget.value);
            find(event.currentTarget.value);
          }}
          size="xs"
          w={230}
          rightSection={waiting ? <Loader size={12} /> : undefined}
        />
        <Filters columns={first.columns} address={address} go={go} />
        <span className={classes.far}>
          <Select
            size="xs"
            w={140}
            aria-label="Break up by"
            placeholder="Break up by"
            clearable
            value={address.group ?? null}
            data={first.columns.filter(({ choices }) => choices).map(({ key, title }) => ({ value: key, label: `by ${title.toLowerCase()}` }))}
            onChange={(value) => go({ group: value ?? undefined })}
          />
          {(kind === "cardholder" || kind === "group") && <Link href="/register/departments">Tree</Link>}
          <ColumnChoice columns={first.columns.filter(({ key }) => key !== "name")} onChoose={(columns) => go({ columns })} />
          <a href={`/register/csv?${query}`} download>
            CSV
          </a>
          <a href={`/register/csv?${query}${query.toString() === "" ? "" : "&"}as=xlsx`} download>
            XLSX
          </a>
        </span>
      </div>
      {first.total === 0 ? (
        <p role="status">
          {isFiltered ? (
            <>
              Words and filters hide all {first.all.toLocaleString("en-GB")}.{" "}
              <UnstyledButton className={sheet.plain} onClick={clear}>
                Show all again
              </UnstyledButton>
            </>
          ) : (
            "None came with this snapshot."
          )}
        </p>
      ) : (
        <RowsTable key={query} address={address} first={first} onSort={(sort) => go({ sort })} />
      )}
    </Sheet>
  );
}
