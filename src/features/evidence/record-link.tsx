"use client";

import Link from "next/link";
import { useSeeing } from "../shell/seeing";
import { recordHref } from "./record-address";
import type { RecordAddress } from "./record-address";

/** From something to the entries of the record that speak of it; nothing for who may not read it. */
export const RecordLink = ({ of, words = "In the record" }: { readonly of: RecordAddress; readonly words?: string }) =>
  useSeeing().record ? <Link href={recordHref(of)}>{words}</Link> : null;
