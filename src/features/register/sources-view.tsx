"use client";

import { Button, Checkbox, MultiSelect, Select } from "@mantine/core";
import Link from "next/link";
import { useState } from "react";
import type { ListKey } from "@/core/facility/document";
import { listKeys } from "@/core/facility/document";
import type { OwnedList, OwnershipProfile } from "@/core/facility/ownership";
import type { SourceSheet } from "@/operations/intake/list-sources";
import type { OrdersTo } from "@/operations/ports/sources";
import { Heading, Sheet } from "@/ui/sheet";
import sheet from "@/ui/sheet.module.css";
import { useAction } from "@/ui/use-action";
import { nothingAsked, QuestionLine } from "../inquiry/question-line";
import { capital, listWords, plural } from "../words/numbers";
import { fieldLabel, fieldsOf, listNames } from "./drafts/field-names";
import { clockText } from "../words/times";
import type { FeedActions } from "./feed-section";
import { FeedSection } from "./feed-section";
import { NewFeedForm } from "./new-feed-form";
import { OrdersToForm } from "./orders-to-form";
import type { SaveRhythm } from "./rhythm-form";
import { RhythmForm } from "./rhythm-form";
import classes from "./register.module.css";

type Save = (source: string, owns: OwnershipProfile) => Promise<boolean>;

/** Fields that only Nomade knows where no source brings them, and that are most often to be kept here. */
const answering: Partial<Record<ListKey, readonly string[]>> = { areas: ["sensitivity", "owner", "maxHolders"], groups: ["manager"], cardholders: ["manager"] };

const choices = (list: ListKey): string[] => [
  ...new Set([
    ...fieldsOf[list].map(({ key }) => key),
    ...(list === "schedules" ? ["holidays", "onHoliday", "from", "until", "always"] : []),
    ...(list === "doors" ? ["entryRows"] : []),
  ]),
];

function OwnedRow({
  list,
  brings,
  owned,
  mayEdit,
  onChange,
}: {
  readonly list: ListKey;
  readonly brings: SourceSheet["brings"][ListKey];
  readonly owned: OwnedList;
  readonly mayEdit: boolean;
  readonly onChange: (owned: OwnedList) => void;
}) {
  const of = owned.fields === undefined ? "all" : owned.fields.length === 0 ? "none" : "some";
  const kept = answering[list] ?? [];
  return (
    <tr>
      <td>{capital(listNames[list][1])}</td>
      <td className={sheet.sub}>
        {brings === undefined
          ? "not brought yet"
          : brings === "all"
            ? "all fields"
            : listWords(brings.filter((field) => field !== "id").map((field) => fieldLabel(list, field).toLowerCase()))}
      </td>
      <td>
        <div style={{ display: "flex", gap: 8, alignItems: "center" }}>
          <Select
            size="xs"
            w={150}
            aria-label={`What it owns of ${listNames[list][1]}`}
            allowDeselect={false}
            disabled={!mayEdit}
            value={of}
            data={[
              { value: "all", label: "all that it brings" },
              { value: "some", label: "only these fields" },
              { value: "none", label: "nothing of it" },
            ]}
            onChange={(value) => {
              const { fields: _before, ...rest } = owned;
              onChange(value === "all" ? rest : { ...rest, fields: value === "none" ? [] : choices(list).filter((field) => !kept.includes(field)) });
            }}
          />
          {of === "some" && (
            <MultiSelect
              size="xs"
              style={{ flex: 1, minWidth: 220 }}
              aria-label={`Fields of ${listNames[list][1]} that it owns`}
              searchable
              disabled={!mayEdit}
              value={[...(owned.fields ?? [])]}
              data={choices(list).map((field) => ({ value: field, label: fieldLabel(list, field) }))}
              onChange={(fields) => onChange({ ...owned, fields })}
            />
          )}
        </div>
      </td>
      <td>
        <Checkbox
          aria-label={`Its list of ${listNames[list][1]} is complete`}
          disabled={!mayEdit}
          checked={owned.complete ?? true}
          onChange={(event) => {
            const { complete: _before, ...rest } = owned;
            onChange(event.currentTarget.checked ? rest : { ...rest, complete: false });
          }}
        />
        {list === "grants" && (
          <Checkbox
            mt={6}
            size="xs"
            label="can block a door for one person"
            disabled={!mayEdit}
            checked={owned.blocks ?? false}
            onChange={(event) => {
              const { blocks: _before, ...rest } = owned;
              onChange(event.currentTarget.checked ? { ...rest, blocks: true } : rest);
            }}
          />
        )}
      </td>
    </tr>
  );
}

interface Editing {
  readonly mayEdit: boolean;
  /** Whether tokens can be made and revoked. */
  readonly mayKeepTokens: boolean;
  readonly save: Save;
  readonly saveRhythm: SaveRhythm;
  readonly sendTo: (source: string, to: OrdersTo | undefined) => Promise<boolean>;
  readonly feed: FeedActions;
  /** The address that sources push to. */
  readonly feedAddress: string;
  /** The page of the stand-in personnel office, where one runs. */
  readonly office: string | undefined;
}

/** When a source sent last, for which moment that speaks, and when it is to send again. */
function Age({ source: { lastAt, asOf, dueAt, isOverdue } }: { readonly source: SourceSheet }) {
  if (lastAt === undefined) return null;
  return (
    <>
      {" "}
      It sent last {clockText(lastAt)}
      {asOf !== undefined && `, as of ${clockText(asOf)}`}.{" "}
      {dueAt !== undefined &&
        (isOverdue ? <b className={sheet.grave}>It is overdue since {clockText(dueAt)}.</b> : `It is expected again by ${clockText(dueAt)}.`)}
    </>
  );
}

function Source({ source, mayEdit, mayKeepTokens, save, saveRhythm, sendTo, feed, feedAddress }: Editing & { readonly source: SourceSheet }) {
  const [owns, setOwns] = useState(source.owns);
  const [said, setSaid] = useState("");
  const { busy, run } = useAction();
  const isChanged = JSON.stringify(owns) !== JSON.stringify(source.owns);
  const lists = listKeys.filter((list) => source.brings[list] !== undefined || owns[list] !== undefined);
  const put = (list: ListKey, owned: OwnedList): void => {
    const { [list]: _before, ...others } = owns;
    setSaid("");
    setOwns(Object.keys(owned).length === 0 ? others : { ...others, [list]: owned });
  };
  return (
    <section aria-label={source.name}>
      <h2 className={classes.section}>{source.name}</h2>
      <p className={sheet.sub} style={{ margin: "0 0 6px" }}>
        {source.snapshot === undefined ? (
          "Nothing was taken in from it yet."
        ) : (
          <>
            It last made snapshot <Link href={`/register?snapshot=${source.snapshot}`}>{source.snapshot}</Link>.
          </>
        )}
        <Age source={source} />
        {source.files.length > 0 && ` It is kept how ${listWords(source.files)} ${source.files.length === 1 ? "is" : "are"} written and called.`}
      </p>
      {source.feed && <FeedSection feed={source.feed} address={feedAddress} mayKeepTokens={mayKeepTokens} mayTakeIn={mayEdit} actions={feed} />}
      {mayEdit && <RhythmForm source={source} save={saveRhythm} />}
      {mayEdit && source.rhythm.watched === true && source.folder !== undefined && (
        <p className={sheet.sub} style={{ margin: "0 0 8px" }}>
          Put files into <code>{source.folder}</code> on the server. Each is read, and moved away, once it is complete.
        </p>
      )}
      {lists.length > 0 && (
        <table className={sheet.table}>
          <thead>
            <tr>
              <th scope="col" style={{ width: "19%" }}>
                List
              </th>
              <th scope="col" style={{ width: "27%" }}>
                Brought last
              </th>
              <th scope="col">What it owns</th>
              <th scope="col" style={{ width: 84 }}>
                Complete
              </th>
            </tr>
          </thead>
          <tbody>
            {lists.map((list) => (
              <OwnedRow key={list} list={list} brings={source.brings[list]} owned={owns[list] ?? {}} mayEdit={mayEdit} onChange={(owned) => put(list, owned)} />
            ))}
          </tbody>
        </table>
      )}
      {mayEdit && isChanged && (
        <Button
          size="xs"
          mt="sm"
          loading={busy}
          onClick={() =>
            run(async () => {
              setSaid((await save(source.name, owns)) ? "Kept; it goes from the next intake on." : "It was not kept: there is no such source any more.");
            })
          }
        >
          Keep this
        </Button>
      )}
      <p role="status" style={{ margin: "4px 0 0" }}>
        {said}
      </p>
      {mayEdit ? (
        <OrdersToForm source={source.name} ordersTo={source.ordersTo} sendTo={sendTo} />
      ) : (
        source.ordersTo && <p className={sheet.sub}>Its orders go by mail to {source.ordersTo.address}.</p>
      )}
    </section>
  );
}

/** Where the register's data comes from: who brings what, owns what, and whose lists are complete. */
export function SourcesView({ sources, ...editing }: Editing & { readonly sources: readonly SourceSheet[] }) {
  return (
    <Sheet question={<QuestionLine asked={nothingAsked} />}>
      <Heading
        result={sources.length === 0 ? "No source yet" : capital(plural(sources.length, "source", "sources"))}
        reference={<Link href="/register">Back to the register</Link>}
        lead="What a source owns is never changed here: a draft about it becomes an order. What no source owns, Nomade does. What a complete list does not name any more is gone at the next intake, unless something still refers to it."
      />
      {sources.map((source) => (
        <Source key={source.name} source={source} {...editing} />
      ))}
      {editing.office !== undefined && (
        <p>
          A made-up <a href={editing.office}>personnel office</a> runs beside this: it pushes joiners, movers and leavers, and shows what it sent.
        </p>
      )}
      {editing.mayKeepTokens && <NewFeedForm address={editing.feedAddress} makeToken={editing.feed.makeToken} />}
    </Sheet>
  );
}
