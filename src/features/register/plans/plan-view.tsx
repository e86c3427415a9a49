"use client";

import { Button, FileInput } from "@mantine/core";
import { useForm } from "@mantine/form";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useState } from "react";
import type { PlanHead } from "@/core/plans/plan";
import type { KeptPlan } from "@/operations/register/plans/keep-plans";
import type { ListedPlans, ShownDoor, ShownPlan } from "@/operations/register/plans/show-plans";
import { PictureBoard } from "@/ui/board/picture-board";
import { Heading, Sheet } from "@/ui/sheet";
import sheet from "@/ui/sheet.module.css";
import { useAction } from "@/ui/use-action";
import { nothingAsked, QuestionLine } from "../../inquiry/question-line";
import { capital, plural } from "../../words/numbers";
import { clockText } from "../../words/times";
import { objectHref } from "../list-address";
import { Floors } from "./floors";
import { LiftLinks } from "./lift-links";
import { asHead, headRules, PlanFields } from "./plan-fields";
import type { TypedHead } from "./plan-fields";
import { pictureOf, plainMark } from "./plan-marks";
import { leftOutWords, planHref, refusalWords, storeyWords } from "./plan-words";
import classes from "./plans.module.css";
import { pictureKinds, sendPicture } from "./send-picture";

export interface PlanActions {
  readonly change: (plan: number, version: number, head: PlanHead) => Promise<KeptPlan>;
  readonly drop: (plan: number) => Promise<boolean>;
}

function ChangePlan({ plan, of, actions }: { readonly plan: ShownPlan; readonly of: ListedPlans; readonly actions: PlanActions }) {
  const router = useRouter();
  const { busy, refused, run } = useAction();
  const [said, setSaid] = useState("");
  const [asks, setAsks] = useState(false);
  const { id, version, name, site, area = "", storey } = plan;
  const form = useForm<TypedHead>({ initialValues: { name, site, area, storey }, validate: headRules });
  const told = (kept: { readonly leftOut: readonly string[] }, words: string): undefined => {
    setSaid([words, leftOutWords(kept.leftOut)].filter(Boolean).join(" "));
    router.refresh();
    return undefined;
  };
  const change = form.onSubmit((typed) =>
    run(async () => {
      const kept = await actions.change(id, version, asHead(typed));
      return kept.outcome === "kept" ? told(kept, "Changed.") : refusalWords(kept);
    }),
  );
  const replace = (file: File | null): void => {
    if (!file) return;
    run(async () => {
      const kept = await sendPicture(file, { plan: String(id), version: String(version) });
      return typeof kept === "string" ? kept : told(kept, "The picture was replaced; the doors kept their places.");
    });
  };
  const drop = (): void =>
    run(async () => {
      if (!(await actions.drop(id))) return "This plan is not there any more.";
      router.push("/register/plans");
      return undefined;
    });
  return (
    <details className={classes.more}>
      <summary>Change what it is of, or its picture</summary>
      <form onSubmit={change} className={classes.fields} noValidate>
        <PlanFields form={form} of={of} />
        <div>
          <Button type="submit" variant="default" size="xs" loading={busy}>
            Change it
          </Button>
        </div>
      </form>
      <FileInput label="Another picture" placeholder="Choose a file" accept={pictureKinds} disabled={busy} value={null} onChange={replace} />
      <p className={sheet.links}>
        {asks ? (
          <>
            <span>Its picture and the places of its doors go for good.</span>
            <Button size="compact-xs" color="madder" loading={busy} onClick={drop}>
              Take the plan out
            </Button>
            <Button size="compact-xs" variant="subtle" onClick={() => setAsks(false)}>
              Keep it
            </Button>
          </>
        ) : (
          <Button size="compact-xs" variant="subtle" onClick={() => setAsks(true)}>
            Take the plan out …
          </Button>
        )}
      </p>
      {refused !== undefined && <p role="alert">{refused}</p>}
      {said !== "" && <p role="status">{said}</p>}
    </details>
  );
}

function SelectedDoor({ plan, of, door }: { readonly plan: ShownPlan; readonly of: ListedPlans; readonly door: ShownDoor }) {
  const where = `door:${encodeURIComponent(door.door)}`;
  return (
    <section aria-live="polite">
      <h2>{door.name}</h2>
      {door.kind === undefined ? (
        <p>The register does not hold this door.</p>
      ) : (
        <ul className={classes.leads}>
          <li>
            <Link href={objectHref("door", door.door)}>Look it up</Link>
          </li>
          <li>
            <Link href={`/inquiry?where=${where}`}>Who opens it</Link>
          </li>
        </ul>
      )}
      <LiftLinks plan={plan} door={door.door} plans={of.plans} href={planHref} />
    </section>
  );
}

/** One plan with its doors. */
export function PlanView({
  plan,
  all,
  door,
  actions,
}: {
  readonly plan: ShownPlan;
  readonly all: ListedPlans;
  readonly door: string | undefined;
  readonly actions: PlanActions;
}) {
  const [selected, setSelected] = useState(door);
  const shown = plan.doors.find((one) => one.door === selected);
  const { id, name, siteName, areaName, storey, doors, site } = plan;
  return (
    <Sheet
      question={<QuestionLine asked={nothingAsked} />}
      margin={
        <>
          {shown ? <SelectedDoor plan={plan} of={all} door={shown} /> : <p className={sheet.sub}>Choose a door on the plan to see where it leads.</p>}
          <Floors plans={all.plans} current={id} href={(one) => planHref(one.id)} />
          {all.mayKeep && <ChangePlan key={plan.version} plan={plan} of={all} actions={actions} />}
        </>
      }
    >
      <Heading
        result={name}
        reference={<Link href="/register/plans">All plans</Link>}
        lead={`${siteName}, ${storeyWords(storey)}${areaName === undefined ? "" : `, ${areaName}`}. ${capital(plural(doors.length, "door stands", "doors stand"))} on it. Changed by ${plan.changedBy}, ${clockText(plan.changedAt)}.`}
      />
      <nav className={sheet.links} aria-label="Plan">
        <Link href={`/inquiry/plan?where=site:${encodeURIComponent(site)}&when=now&plan=${id}`}>Who opens what now</Link>
        {all.mayKeep && <Link href={`/register/plans/${id}/edit`}>Set doors on it</Link>}
      </nav>
      <PictureBoard key={id} picture={pictureOf(plan)} label={`Plan: ${name}`} marks={doors.map(plainMark)} selected={selected} onSelect={setSelected} />
    </Sheet>
  );
}
