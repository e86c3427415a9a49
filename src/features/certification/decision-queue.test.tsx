/** @jest-environment jsdom */
import { beforeEach, describe, expect, it } from "@jest/globals";
import { act, render, screen } from "@testing-library/react";
import type { Pending } from "./decision-queue";
import { useDecisionQueue } from "./decision-queue";

type Save = (pending: Pending) => Promise<string | undefined>;

const withdrawal = (line: number): Pending => ({ key: `line ${line}`, line, choice: { decision: "withdraw", reason: "" } });

function Decider({ account, stored, save, offered }: { account: number; stored: object; save: Save; offered: (put: (pending: Pending) => void) => void }) {
  const queue = useDecisionQueue({ docket: 5, account }, stored, save, () => undefined);
  offered(queue.put);
  const choices = [...queue.choices].map(([line, { decision }]) => `${line} ${decision}`).join();
  return <p>{`${queue.state}; ${choices}; ${[...queue.refused.values()].join()}`}</p>;
}

function decider(account: number, save: Save) {
  const sent: Pending[] = [];
  let put: (pending: Pending) => void = () => undefined;
  const element = (stored: object) => (
    <Decider
      account={account}
      stored={stored}
      save={(pending) => {
        sent.push(pending);
        return save(pending);
      }}
      offered={(given) => {
        put = given;
      }}
    />
  );
  const { rerender, unmount } = render(element({}));
  return {
    sent,
    unmount,
    put: (pending: Pending) => act(() => Promise.resolve(put(pending))),
    /** The page comes anew, with what was saved by then. */
    comesAnew: () => act(() => Promise.resolve(rerender(element({})))),
    says: (): string => screen.getByText(/;/).textContent,
  };
}

const saves: Save = () => Promise.resolve(undefined);
const isGone: Save = () => Promise.reject(new Error("the network is gone"));

describe("what a certifier decides", () => {
  beforeEach(() => localStorage.clear());

  it("stands on the page from when it is chosen until the page that comes after it was saved shows it", async () => {
    const one = decider(1, saves);
    await one.put(withdrawal(7));
    expect([one.says(), one.sent]).toEqual(["saved; 7 withdraw; ", [withdrawal(7)]]);
    await one.comesAnew();
    expect(one.says()).toBe("saved; ; ");
  });

  it("waits where nobody answers, and is sent by whoever comes back, but by nobody else on the same device", async () => {
    const gone = decider(1, isGone);
    await gone.put(withdrawal(7));
    expect(gone.says()).toBe("waiting; 7 withdraw; ");
    gone.unmount();
    const other = decider(2, saves);
    await act(() => Promise.resolve());
    expect([other.says(), other.sent]).toEqual(["saved; ; ", []]);
    other.unmount();
    const back = decider(1, saves);
    await act(() => Promise.resolve());
    expect(back.sent).toEqual([withdrawal(7)]);
    expect(localStorage.length).toBe(0);
  });

  it("is sent in its order, of two choices for one line the last one, and stands no more where it was refused", async () => {
    const gone = decider(1, isGone);
    await gone.put(withdrawal(7));
    await gone.put(withdrawal(8));
    await gone.put({ key: "line 7", line: 7, choice: { decision: "keep", reason: "" } });
    gone.unmount();
    const back = decider(1, (pending) => Promise.resolve(pending.key === "line 8" ? "Not yours." : undefined));
    await act(() => Promise.resolve());
    expect(back.sent.map(({ key }) => key)).toEqual(["line 8", "line 7"]);
    expect(back.says()).toBe("saved; 7 keep; Not yours.");
  });
});
