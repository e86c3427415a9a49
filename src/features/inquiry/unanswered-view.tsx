import { notFound } from "next/navigation";
import type { ComponentProps } from "react";
import { NoRegister } from "../shell/no-register";
import { NotUnderstoodView } from "./not-understood-view";
import { TooLongView } from "./past-view";

/** Why no one register answers a question. */
export type Unanswered =
  | { readonly outcome: "no-register" | "not-there" }
  | { readonly outcome: "not-understood"; readonly parts: ComponentProps<typeof NotUnderstoodView>["parts"]; readonly latest: number }
  | { readonly outcome: "several"; readonly asked: ComponentProps<typeof TooLongView>["asked"]; readonly count: number };

/** What is shown in place of an answer that one register has to give, where none does; `name` is what the page is called. */
export function UnansweredView({ why, name }: { readonly why: Unanswered; readonly name: string }) {
  switch (why.outcome) {
    case "no-register":
      return <NoRegister />;
    case "not-there":
      return notFound();
    case "not-understood":
      return <NotUnderstoodView parts={why.parts} reference={`${name} on snapshot ${why.latest}`} />;
    case "several":
      return <TooLongView asked={why.asked} count={why.count} most={1} reference={`${name} on several snapshots`} />;
  }
}
