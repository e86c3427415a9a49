"use client";

import Link from "next/link";
import type { Inquiry, NamedDoor, NamedHolder } from "@/operations/inquiry/inquiry";
import type { ToldPlace } from "@/operations/inquiry/routes-answer";
import { plural } from "../words/numbers";
import { questionAddress, routesAddress } from "./address";

const whoOf = ({ kind, id }: NamedHolder): Inquiry["who"] => ({ kind, id });
export const doorWords = (count: number): string => plural(count, "door", "doors");

export function Holder({ holder, inquiry }: { readonly holder: NamedHolder; readonly inquiry: Inquiry }) {
  return <Link href={routesAddress({ ...inquiry, who: whoOf(holder) })}>{holder.name}</Link>;
}

export function Door({ door, inquiry }: { readonly door: NamedDoor; readonly inquiry: Inquiry }) {
  return <Link href={questionAddress({ ...inquiry, where: { kind: "door", id: door.id }, form: undefined, fold: undefined })}>{door.name}</Link>;
}

export function Place({ place, inquiry }: { readonly place: ToldPlace; readonly inquiry: Inquiry }) {
  return place.area === undefined ? <>{place.name}</> : <Link href={routesAddress({ ...inquiry, where: { kind: "area", id: place.area } })}>{place.name}</Link>;
}

/** Leads to what would be cut off without a door. */
export function OutOfUse({ door, inquiry, words }: { readonly door: NamedDoor; readonly inquiry: Inquiry; readonly words: string }) {
  return (
    <Link href={routesAddress(inquiry, door.id)} aria-label={`${words}: ${door.name} out of use`}>
      {words}
    </Link>
  );
}
