import { hash, verify } from "@node-rs/argon2";

/** So many passwords are hashed at once: each takes a core and 19 MB for a while, and pages need theirs. */
const atOnce = 2;

let running = 0;
const waiting: (() => void)[] = [];

async function inTurn<T>(work: () => Promise<T>): Promise<T> {
  if (running >= atOnce) await new Promise<void>((resolve) => waiting.push(resolve));
  else running += 1;
  try {
    return await work();
  } finally {
    // The place goes to whoever waits longest, without becoming free in between.
    const next = waiting.shift();
    if (next) next();
    else running -= 1;
  }
}

/** The library's defaults are argon2id with the parameters that OWASP recommends (its cheat sheet on password storage; from memory). */
export const passwords = {
  hash: (password: string): Promise<string> => inTurn(() => hash(password)),
  verify: (hashed: string, password: string): Promise<boolean> => inTurn(() => verify(hashed, password)),
};
