import { longWork, nomade } from "./nomade";

const usualMs = 30_000;
/** What happens at doors is seen while it happens. */
const unitsMs = 5000;
const firstMs = 3_000;
/** The effects of lines are worked out for so long at a time. */
const effectsMs = 20_000;

/** Does something every half minute, or as often as is said, for as long as the server runs, unless it is still at it. */
function again(what: string, work: () => Promise<unknown>, everyMs = usualMs): void {
  let isRunning = false;
  const look = (): void => {
    if (isRunning) return;
    isRunning = true;
    work()
      .catch((error: unknown) => console.error(`${what} could not be done:`, error))
      .finally(() => (isRunning = false));
  };
  setTimeout(look, firstMs).unref();
  setInterval(look, everyMs).unref();
}

/** Sees to what time asks for, such as mails of open rounds and the head of the record outside, and to the effects of lines of rounds that were opened. */
export function startClock(): void {
  again("What time asks for", () => nomade.runClock());
  again(
    "What units at the doors tell",
    async () => {
      await nomade.visitUnits();
      if (await nomade.awaitsChecking()) await longWork().checkUnits();
    },
    unitsMs,
  );
  again("What sources sent", () => nomade.lookForArrivals());
  again("The effects of lines", async () => {
    // One after the other while there are any: a large round is not kept waiting for the clock.
    while (await nomade.awaitsEffects()) if ((await longWork().fillEffects(effectsMs)) === 0) return;
  });
}
