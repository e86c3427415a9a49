let last: Promise<void> = Promise.resolve();

/**
 * Does some work on the page after what was asked for before it, each in a task of its own, so that the page answers in between. Gives what calls it off as
 * long as its turn has not come.
 */
export function inTurn(work: () => void): () => void {
  let isWanted = true;
  last = last.then(
    () =>
      new Promise((resolve) => {
        setTimeout(() => {
          try {
            if (isWanted) work();
          } finally {
            resolve();
          }
        });
      }),
  );
  return () => {
    isWanted = false;
  };
}
