"use client";

import { Button, FileInput } from "@mantine/core";
import { useForm } from "@mantine/form";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useState } from "react";
import { groupBy } from "@/core/kernel/compare";
import type { ListedPlan, ListedPlans } from "@/operations/register/plans/show-plans";
import { Heading, Sheet } from "@/ui/sheet";
import sheet from "@/ui/sheet.module.css";
import { useAction } from "@/ui/use-action";
import { nothingAsked, QuestionLine } from "../../inquiry/question-line";
import { capital, plural } from "../../words/numbers";
import { clockText } from "../../words/times";
import { asHead, headRules, PlanFields } from "./plan-fields";
import type { TypedHead } from "./plan-fields";
import { leftOutWords, pictureAddress, planHref, storeyWords } from "./plan-words";
import classes from "./plans.module.css";
import { pictureKinds, sendPicture } from "./send-picture";

/** A new plan: a picture, and what it is of. */
function NewPlan({ of }: { readonly of: ListedPlans }) {
  const router = useRouter();
  const [file, setFile] = useState<File | null>(null);
  const [missing, setMissing] = useState(false);
  const [leftOut, setLeftOut] = useState<{ readonly id: number; readonly words: string }>();
  const { busy, refused, run } = useAction();
  const form = useForm<TypedHead>({ initialValues: { name: "", site: of.sites[0]?.id ?? "", area: "", storey: 0 }, validate: headRules });
  const add = form.onSubmit(
    (typed) => {
      setMissing(!file);
      if (!file) return;
      run(async () => {
        const { name, site, area, storey } = asHead(typed);
        const kept = await sendPicture(file, { name, site, storey: String(storey), ...(area !== undefined && { area }) });
        if (typeof kept === "string") return kept;
        if (kept.leftOut.length === 0) router.push(`/register/plans/${kept.id}/edit`);
        else {
          setLeftOut({ id: kept.id, words: leftOutWords(kept.leftOut) });
          form.reset();
          setFile(null);
          router.refresh();
        }
        return undefined;
      });
    },
    () => setMissing(!file),
  );
  return (
    <section aria-labelledby="new-plan">
      <h2 id="new-plan">A new plan</h2>
      <form onSubmit={add} className={classes.fields} noValidate>
        <FileInput
          label="Picture"
          description="PNG, JPEG or SVG, up to 8 MiB; only what can be looked at is kept of it"
          placeholder="Choose a file"
          accept={pictureKinds}
          clearable
          value={file}
          error={missing && !file ? "Choose a picture." : undefined}
          onChange={setFile}
        />
        <PlanFields form={form} of={of} />
        <div>
          <Button type="submit" size="xs" loading={busy}>
            Add it and set its doors
          </Button>
        </div>
      </form>
      {refused !== undefined && <p role="alert">{refused}</p>}
      {leftOut && (
        <p role="status">
          Added. {leftOut.words} <Link href={`/register/plans/${leftOut.id}/edit`}>Set its doors</Link>
        </p>
      )}
    </section>
  );
}

/** A plan as a small picture with what it is of. */
function PlanCard({ plan }: { readonly plan: ListedPlan }) {
  const { id, name, storey, areaName, doorCount, goneCount, mediaType, width, height } = plan;
  return (
    <li className={classes.card}>
      <Link href={planHref(id)}>
        <span className={classes.small} data-line={mediaType === "image/svg+xml" || undefined}>
          {/* eslint-disable-next-line @next/next/no-img-element -- a picture of the installation's own */}
          <img src={pictureAddress(plan)} alt="" width={width} height={height} loading="lazy" />
        </span>
        <b>{name}</b>
      </Link>
      <span className={sheet.sub}>
        {capital(storeyWords(storey))}
        {areaName === undefined ? "" : `, ${areaName}`}; {plural(doorCount, "door", "doors")}
        {goneCount > 0 && <>, {goneCount} of them not in the register</>}
      </span>
      <span className={sheet.sub}>
        Changed by {plan.changedBy}, {clockText(plan.changedAt)}
      </span>
    </li>
  );
}

/** The plans of the buildings, by site and floor. */
export function PlansView({ of }: { readonly of: ListedPlans }) {
  const { plans, unplaced, mayKeep } = of;
  const bySite = groupBy(plans, ({ siteName }) => siteName);
  const rest = unplaced === 0 ? "Every door of the register stands on one." : `${capital(plural(unplaced, "door stands", "doors stand"))} on none.`;
  return (
    <Sheet question={<QuestionLine asked={nothingAsked} />} {...(mayKeep && { margin: <NewPlan of={of} /> })}>
      <Heading
        result={plans.length === 0 ? "There is no plan of a building yet" : `${capital(plural(plans.length, "plan", "plans"))} of buildings`}
        lead={`${plans.length === 0 ? (mayKeep ? "Bring a picture of a floor or an area, and set its doors on it: answers are then shown there. " : "") : rest}`}
      />
      <nav className={sheet.links} aria-label="Plans">
        <Link href="/register">Register</Link>
        {plans.length > 0 && <Link href="/inquiry/plan?when=now">Who opens what now, on the plans</Link>}
      </nav>
      {[...bySite].map(([site, own]) => (
        <section key={site} aria-label={site}>
          <h2 className={classes.site}>{site}</h2>
          <ul className={classes.cards}>
            {own.map((plan) => (
              <PlanCard key={plan.id} plan={plan} />
            ))}
          </ul>
        </section>
      ))}
    </Sheet>
  );
}
