"use client";

import Link from "next/link";
import { useSeeing } from "../../shell/seeing";
import { unitHref } from "./unit-words";

/** A unit by its id, with its page for who sees what speaks of all sites together. */
export const UnitLink = ({ id }: { readonly id: string }) => (useSeeing().whole ? <Link href={unitHref(id)}>{id}</Link> : id);
