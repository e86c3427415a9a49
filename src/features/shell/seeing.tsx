"use client";

import { createContext, useContext } from "react";
import type { ReactNode } from "react";

interface Seen {
  /** What speaks of all sites together: events, comparisons, drafts, sources, packs. */
  readonly whole: boolean;
  readonly record: boolean;
  /** Who looks, by sign-in name. */
  readonly signIn: string;
}

const Context = createContext<Seen>({ whole: true, record: true, signIn: "" });

/** Says what whoever looks may see, so that nothing leads to where there is nothing for them; the server checks each page by itself. */
export const Seeing = ({ children, ...seen }: Seen & { readonly children: ReactNode }) => <Context value={seen}>{children}</Context>;

export const useSeeing = (): Seen => useContext(Context);

/** What is only for those who see all sites. */
export const WholeOnly = ({ children }: { readonly children: ReactNode }) => (useSeeing().whole ? children : null);
