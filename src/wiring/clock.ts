import { nomade } from "./nomade";

const everyMs = 30_000;
const firstMs = 3_000;

/** Sees to what time asks for, mails of open rounds and the head of the record outside, every half minute for as long as the server runs. */
export function startClock(): void {
  let isRunning = false;
  const look = (): void => {
    if (isRunning) return;
    isRunning = true;
    nomade
      .runClock()
      .catch((error: unknown) => console.error("What time asks for could not be done:", error))
      .finally(() => (isRunning = false));
  };
  setTimeout(look, firstMs).unref();
  setInterval(look, everyMs).unref();
}
