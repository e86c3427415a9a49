"use client";

import { useCallback, useEffect, useState } from "react";
import type { ShownDocket } from "@/operations/certification/show-docket";

/**
 * A docket as it stood when the page came, or as it was loaded last; and what loads it again. Where nobody answers it stays as it is: the page itself is never
 * loaded anew for this, since a browser that cannot do so shows an error in its place, and with it would go what somebody sees of their decisions.
 */
export function useLatestDocket(first: ShownDocket, load: (docket: number) => Promise<ShownDocket | undefined>): readonly [ShownDocket, () => void] {
  const [came, setCame] = useState(first);
  const [shown, setShown] = useState(first);
  // The page came once more, in another language for example.
  if (came !== first) {
    setCame(first);
    setShown(first);
  }
  const { id } = first.docket;
  const look = useCallback(() => {
    load(id).then(
      (now) => now && setShown(now),
      () => undefined,
    );
  }, [load, id]);
  // What was decided on another device shows when somebody comes back to this one.
  useEffect(() => {
    const onVisible = () => document.visibilityState === "visible" && look();
    document.addEventListener("visibilitychange", onVisible);
    return () => document.removeEventListener("visibilitychange", onVisible);
  }, [look]);
  return [shown, look];
}
