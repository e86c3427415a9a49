import { notifications } from "@mantine/notifications";
import { unstable_rethrow } from "next/navigation";
import { useCallback, useState, useTransition } from "react";

/** What somebody set off: whether it is under way, and why it was refused. */
export interface Action {
  readonly busy: boolean;
  readonly refused: string | undefined;
  /** Sets it off; what it gives, if anything, is why it was refused. */
  readonly run: (act: () => Promise<string | undefined | void>) => void;
}

const notice = "no-answer";

/**
 * One thing at a time that is done on the server: `busy` from when it is set off until it and the page that it leads to are there, and always released.
 * Where no answer comes a notice says so; the page stays, with all that was typed.
 */
export function useAction(): Action {
  const [busy, startTransition] = useTransition();
  const [refused, setRefused] = useState<string>();
  const run = useCallback<Action["run"]>((act) => {
    setRefused(undefined);
    notifications.hide(notice);
    startTransition(async () => {
      try {
        const words = await act();
        // Past the await a change is only part of the transition if it is begun anew.
        startTransition(() => setRefused(words ?? undefined));
      } catch (error) {
        // Where the answer leads to another page, that is no failure.
        unstable_rethrow(error);
        notifications.show({
          id: notice,
          color: "madder",
          title: "No answer from the server",
          message: "It may not have been done. What you typed is still here: look whether it was, and try again.",
          autoClose: false,
        });
      }
    });
  }, []);
  return { busy, refused, run };
}
