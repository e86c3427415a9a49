"use client";

import Link from "next/link";
import type { Inquiry, ShutPlan } from "@/operations/inquiry/inquiry";
import { useSeeing } from "../shell/seeing";
import { useFetched } from "@/ui/fetched";
import sheet from "@/ui/sheet.module.css";
import { withdrawHref } from "../register/drafts/withdraw-address";
import { withdrawalWords } from "../words/changes";
import { removalWords } from "../words/needs";
import { questionQuery } from "./address";
import classes from "./inquiry.module.css";

/** What must go before a door no longer opens, and what else that does: worked out while the rest is read. */
export function ToShut({ asked }: { readonly asked: Inquiry }) {
  const { whole } = useSeeing();
  const plan = useFetched<ShutPlan>(whole ? `/inquiry/shut?${questionQuery(asked)}` : undefined);
  // What shuts a door is planned over all sites.
  if (!whole) return null;
  if (plan.state !== "there")
    return (
      <div className={`${sheet.must} ${classes.plan}`}>
        <b>To shut it for good:</b> {plan.state === "awaited" ? "working out what must go …" : "what must go could not be worked out. Load the page again."}
      </div>
    );
  const { withdrawal, otherWay, toWithdraw, withoutBlock, names } = plan.value;
  const isByDoor = toWithdraw !== undefined && "door" in toWithdraw;
  return (
    <div className={`${sheet.must} ${classes.plan}`}>
      <b>To shut it for good:</b> {withdrawalWords(withdrawal)}
      {toWithdraw && (
        <>
          {" "}
          <Link href={withdrawHref(toWithdraw)}>Put it into a draft</Link>.
        </>
      )}
      {otherWay && (
        <p>
          <b>Or, with fewer blocks:</b> {withdrawalWords(otherWay)}
          {isByDoor && (
            <>
              {" "}
              <Link href={withdrawHref({ ...toWithdraw, withFewerBlocks: true })}>Put this into a draft</Link>.
            </>
          )}
        </p>
      )}
      {withoutBlock.length > 0 && <> Without a block, {removalWords(withoutBlock, names)}.</>}
    </div>
  );
}
