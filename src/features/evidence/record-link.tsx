import Link from "next/link";
import { recordHref } from "./record-address";
import type { RecordAddress } from "./record-address";

/** From something to the entries of the record that speak of it. */
export const RecordLink = ({ of, words = "In the record" }: { readonly of: RecordAddress; readonly words?: string }) => (
  <Link href={recordHref(of)}>{words}</Link>
);
