"use client";

import { Button, Menu, Select, UnstyledButton } from "@mantine/core";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useState } from "react";
import type { ListKey } from "@/core/facility/document";
import type { DraftSheet, ShownChange, ShownOrder } from "@/operations/register/drafts/show-draft";
import { Heading, Sheet } from "@/ui/sheet";
import sheet from "@/ui/sheet.module.css";
import { useAction } from "@/ui/use-action";
import type { AskedQuestion } from "../../inquiry/question-line";
import { nothingAsked, QuestionLine } from "../../inquiry/question-line";
import { RecordLink } from "../../evidence/record-link";
import { TaskProgress } from "../../shell/task-progress";
import { capital, listWords, plural } from "../../words/numbers";
import { clockText } from "../../words/times";
import register from "../register.module.css";
import { draftHref, editHref } from "./addresses";
import type { DraftActions } from "./draft-actions";
import classes from "./drafts.module.css";
import { EffectMargin } from "./effect-margin";
import { FieldDifference } from "./field-difference";
import { fieldLabel, listNames } from "./field-names";

const addable: readonly ListKey[] = ["cardholders", "credentials", "groups", "levels", "bundles", "doorGroups", "schedules", "calendars", "areas", "doors"];
const actionWords = { add: "new", change: "changed", end: "taken out" };

function AddBar({ id }: { readonly id: number }) {
  return (
    <div className={classes.add}>
      <Menu position="bottom-start">
        <Menu.Target>
          <Button variant="default">Add …</Button>
        </Menu.Target>
        <Menu.Dropdown>
          {addable.map((list) => (
            <Menu.Item key={list} component={Link} href={editHref(id, list)}>
              {capital(listNames[list][0])}
            </Menu.Item>
          ))}
          <Menu.Item component={Link} href={editHref(id, "grants")}>
            Grant
          </Menu.Item>
          <Menu.Item component={Link} href={editHref(id, "grants", undefined, { effect: "block" })}>
            Block
          </Menu.Item>
        </Menu.Dropdown>
      </Menu>
      <Button variant="default" component={Link} href={`${draftHref(id)}/box`}>
        A box of cards
      </Button>
      <Button variant="default" component={Link} href={`${draftHref(id)}/people`}>
        Move people
      </Button>
      <span className={sheet.sub}>
        What is there already is changed from its own page in the{" "}
        <Link href="/register" style={{ textDecoration: "underline" }}>
          register
        </Link>
        .
      </span>
    </div>
  );
}

/** A new object in a line: what it has, after one another. */
function NewFields({ list, fields }: Pick<ShownOrder, "list" | "fields">) {
  return (
    <>
      {fields
        .filter(({ field }) => field !== "name")
        .map(({ field, come }, i) => (
          <span key={field}>
            {i > 0 && " · "}
            <span className={sheet.sub}>{fieldLabel(list, field)}</span> {come.slice(0, 6).join("; ")}
            {come.length > 6 && ` and ${come.length - 6} more`}
          </span>
        ))}
    </>
  );
}

function ChangeRow({
  id,
  change,
  mayEdit,
  actions,
  run,
  busy,
}: {
  readonly id: number;
  readonly change: ShownChange;
  readonly mayEdit: boolean;
  readonly actions: DraftActions;
  readonly run: (act: () => Promise<unknown>) => void;
  readonly busy: boolean;
}) {
  const { list, key, name, action, fields, clashes, settled, version, also } = change;
  const seen = { list, key, seen: version };
  const owners = [...new Set(fields.map(({ owner }) => owner ?? "Nomade"))];
  const isClash = clashes.length > 0;
  return (
    <tr>
      <td style={{ width: "26%" }}>
        {mayEdit && action !== "end" && list !== "memberships" ? <Link href={editHref(id, list, key)}>{name}</Link> : <b>{name}</b>}
        <div className={sheet.sub}>
          {actionWords[action]} by {change.changedBy}
        </div>
        {also.length > 0 && (
          <div className={sheet.mark} style={{ lineHeight: 1.4 }}>
            ! also changed by {listWords(also.map(({ owner, draft }) => `${owner} in draft ${draft}`))}
          </div>
        )}
      </td>
      <td>
        {settled ? (
          <span className={sheet.sub}>The register says so by now.</span>
        ) : action === "add" ? (
          <NewFields list={list} fields={fields} />
        ) : (
          <FieldDifference list={list} fields={fields} />
        )}
        {isClash && (
          <div className={classes.clash}>
            <strong>The register has changed here since.</strong>
            {clashes.map(({ field, register, draft }) => (
              <div key={field}>
                {fieldLabel(list, field)}: the register has {register.join("; ") || "nothing"}, this draft {draft.join("; ") || "nothing"}
              </div>
            ))}
            {mayEdit && (
              <div className={classes.add} style={{ margin: "6px 0 0" }}>
                <Button size="xs" variant="default" disabled={busy} onClick={() => run(() => actions.settle(id, seen, "draft"))}>
                  Keep the draft’s
                </Button>
                <Button size="xs" variant="default" disabled={busy} onClick={() => run(() => actions.settle(id, seen, "register"))}>
                  Take the register’s
                </Button>
              </div>
            )}
          </div>
        )}
      </td>
      <td className={sheet.sub} style={{ width: "15%" }}>
        {settled ? "" : owners.map((owner) => (owner === "Nomade" ? "applied here" : `order to ${owner}`)).join(", ")}
      </td>
      {mayEdit && (
        <td style={{ width: 84, textAlign: "right" }}>
          <UnstyledButton className={sheet.plain} disabled={busy} onClick={() => run(() => actions.takeBack(id, seen))} aria-label={`Take back ${name}`}>
            Take back
          </UnstyledButton>
        </td>
      )}
    </tr>
  );
}

/** Open orders come first; so many are listed. */
const ordersShown = 60;

function Orders({ id, orders: given }: { readonly id: number; readonly orders: readonly ShownOrder[] }) {
  const open = given.filter(({ done }) => !done).length;
  const orders = [...given].sort((a, b) => Number(a.done) - Number(b.done));
  return (
    <>
      <h2 className={register.section}>
        {capital(plural(orders.length, "order", "orders"))}, {open === 0 ? "all of them done" : `${open} not in the register yet`}
      </h2>
      <p className={sheet.sub}>
        For whoever keeps the source. The register changes when the source says so at an intake.{" "}
        <a href={`${draftHref(id)}/orders`} download>
          Save as CSV
        </a>
        ,{" "}
        <a href={`${draftHref(id)}/orders?form=xlsx`} download>
          as XLSX
        </a>{" "}
        or{" "}
        <a href={`${draftHref(id)}/orders?form=json`} download>
          as JSON
        </a>
      </p>
      <table className={`${sheet.table} ${classes.changes}`}>
        <thead>
          <tr>
            <th scope="col">What</th>
            <th scope="col">How it shall be</th>
            <th scope="col">Source</th>
            <th scope="col">State</th>
          </tr>
        </thead>
        <tbody>
          {orders.slice(0, ordersShown).map(({ id: order, source, action, list, name, fields, done }) => (
            <tr key={order}>
              <td style={{ width: "28%" }}>
                <b>{name}</b>
                <div className={sheet.sub}>
                  {listNames[list][0]}, {action === "add" ? "to be added" : action === "end" ? "to be taken out" : "to be changed"}
                </div>
              </td>
              <td>
                {action === "end" ? (
                  "Not there any more"
                ) : action === "add" ? (
                  <NewFields list={list} fields={fields} />
                ) : (
                  <FieldDifference list={list} fields={fields} />
                )}
              </td>
              <td className={sheet.sub}>{source}</td>
              <td>{done ? "done: the register says so" : "not yet"}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {orders.length > ordersShown && <p className={sheet.sub}>and {(orders.length - ordersShown).toLocaleString("en-GB")} more; the files have all of them</p>}
    </>
  );
}

/** What closing comes to, in a sentence. */
function closingWords({ applied, ordersBySource }: DraftSheet): string {
  const parts = [
    applied > 0 ? `${plural(applied, "change is", "changes are")} applied here, as Nomade owns what ${applied === 1 ? "it changes" : "they change"}` : "",
    ...ordersBySource.map(({ source, count }) => `${plural(count, "order goes", "orders go")} out to ${source}`),
  ].filter(Boolean);
  return parts.length === 0 ? "There is nothing left to do: the register says all of it by now." : `${capital(listWords(parts))}.`;
}

type Closing = Awaited<ReturnType<DraftActions["close"]>> | { readonly outcome: "going-on"; readonly task: string };

function CloseBar({
  view,
  actions,
  run,
  busy,
}: {
  readonly view: DraftSheet;
  readonly actions: DraftActions;
  readonly run: (act: () => Promise<unknown>) => void;
  readonly busy: boolean;
}) {
  const { draft, snapshot, clashing, couldShareWith } = view;
  const [closing, setClosing] = useState<Closing>();
  const [dropping, setDropping] = useState(false);
  const { run: runClosing } = useAction();
  const router = useRouter();
  const close = (): void => {
    const task = crypto.randomUUID();
    setClosing({ outcome: "going-on", task });
    runClosing(async () => {
      // Where no answer comes it may be closed or not: the page is read anew, and says.
      const outcome = await actions.close(draft.id, { revision: draft.revision, snapshot }, task).catch((error: unknown) => {
        setClosing(undefined);
        throw error;
      });
      setClosing(outcome);
      router.refresh();
    });
  };
  if (closing?.outcome === "going-on") return <TaskProgress at="/register/drafts/task" task={closing.task} name={draft.name} />;
  return (
    <>
      {closing?.outcome === "refused" && (
        <div className={sheet.grave} role="alert">
          <strong>It was not closed.</strong>
          {closing.reasons.map((reason) => (
            <div key={reason}>{reason}</div>
          ))}
        </div>
      )}
      {closing?.outcome === "stopped" && <p role="status">Stopped; nothing was done.</p>}
      <div className={classes.closing}>
        {draft.changes > 0 && (
          <>
            <span style={{ flex: "1 1 320px" }}>
              {closingWords(view)} {clashing > 0 && <b>{capital(plural(clashing, "clash has", "clashes have"))} to be settled first.</b>}
            </span>
            <Button onClick={close} disabled={busy || clashing > 0}>
              Close the draft
            </Button>
          </>
        )}
        {dropping ? (
          <>
            <span>Drop it, with all its changes?</span>
            <Button color="madder" variant="outline" disabled={busy} onClick={() => run(() => actions.drop(draft.id))}>
              Drop it
            </Button>
            <Button variant="default" onClick={() => setDropping(false)}>
              Keep it
            </Button>
          </>
        ) : (
          <Button variant="default" onClick={() => setDropping(true)}>
            Drop
          </Button>
        )}
        {couldShareWith.length > 0 && (
          <Select
            aria-label="Share with"
            placeholder="Share with …"
            w={190}
            value={null}
            data={couldShareWith.map(({ id, name }) => ({ value: String(id), label: name }))}
            onChange={(value) => value !== null && run(() => actions.share(draft.id, Number(value)))}
          />
        )}
      </div>
    </>
  );
}

/** Nothing is asked yet; whatever is asked from a draft’s page is asked with its changes made. */
const askedOn = (draft: number): AskedQuestion => ({ ...nothingAsked, inquiry: { ...nothingAsked.inquiry, draft } });

/** A draft: its changes, what they would do, and how it ends. */
export function DraftView({ sheet: view, actions }: { readonly sheet: DraftSheet; readonly actions: DraftActions }) {
  const { draft, snapshot, changes, counts, mayEdit, orders } = view;
  const router = useRouter();
  const { busy, run: runAction } = useAction();
  const [meanwhile, setMeanwhile] = useState(false);
  const run = (act: () => Promise<unknown>): void =>
    runAction(async () => {
      const done = await act();
      setMeanwhile(typeof done === "object" && done !== null && (done as { outcome?: string }).outcome === "changed-meanwhile");
      router.refresh();
    });
  const lists = counts.map(({ list }) => list);
  const ended =
    draft.ended &&
    `${draft.state === "closed" ? "Closed" : "Dropped"} ${clockText(draft.ended.at)} by ${draft.ended.by}${draft.ended.snapshot === undefined ? "" : `; its own part became snapshot ${draft.ended.snapshot}`}.`;
  const whose = `${draft.owner.name}’s${draft.sharedWith.length > 0 ? `, shared with ${listWords(draft.sharedWith.map(({ name }) => name))}` : ""}.`;
  return (
    <Sheet
      question={<QuestionLine asked={draft.state === "open" ? askedOn(draft.id) : nothingAsked} />}
      margin={draft.state === "open" ? <EffectMargin draft={draft.id} revision={draft.revision} snapshot={snapshot} changes={draft.changes} /> : undefined}
    >
      <Heading
        result={draft.name}
        reference={
          <>
            <Link href="/register/drafts">Draft {draft.id}</Link> on snapshot {snapshot} · <RecordLink of={{ on: [`draft ${draft.id}`] }} />
          </>
        }
        lead={ended ?? `${whose} The register is as it was until this is closed.`}
      />
      {mayEdit && <AddBar id={draft.id} />}
      {meanwhile && (
        <p role="alert" className={sheet.grave}>
          Somebody else changed this meanwhile; nothing was written. What you see now is theirs.
        </p>
      )}
      {draft.state === "open" && changes.length === 0 && <p>No change yet.</p>}
      {lists.map((list) => {
        const ofList = changes.filter((change) => change.list === list);
        const count = counts.find((one) => one.list === list)?.count ?? 0;
        if (ofList.length === 0) return null;
        return (
          <section key={list}>
            <h2 className={register.section}>
              {capital(listNames[list][1])} <span className={sheet.count}>{count.toLocaleString("en-GB")}</span>
            </h2>
            <table className={`${sheet.table} ${classes.changes}`}>
              <tbody>
                {ofList.map((change) => (
                  <ChangeRow key={change.key} id={draft.id} change={change} mayEdit={mayEdit} actions={actions} run={run} busy={busy} />
                ))}
              </tbody>
            </table>
            <p className={sheet.sub} style={{ margin: "6px 0 0", display: "flex", gap: 18 }}>
              {count > ofList.length && (
                <Link href={`${draftHref(draft.id)}?all`} scroll={false}>
                  and {(count - ofList.length).toLocaleString("en-GB")} more of the kind
                </Link>
              )}
              {mayEdit && count > 1 && (
                <UnstyledButton className={sheet.plain} disabled={busy} onClick={() => run(() => actions.takeBackAll(draft.id, list, draft.revision))}>
                  Take back all {count.toLocaleString("en-GB")}
                </UnstyledButton>
              )}
            </p>
          </section>
        );
      })}
      {draft.state === "closed" && (orders.length > 0 ? <Orders id={draft.id} orders={orders} /> : <p>No source had to be asked for anything.</p>)}
      {mayEdit && <CloseBar view={view} actions={actions} run={run} busy={busy} />}
    </Sheet>
  );
}
