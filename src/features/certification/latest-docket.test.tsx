/** @jest-environment jsdom */
import { expect, it } from "@jest/globals";
import { act, render, screen } from "@testing-library/react";
import type { ShownDocket } from "@/operations/certification/show-docket";
import { useLatestDocket } from "./latest-docket";

const docket = (name: string): ShownDocket => ({ docket: { id: 5 }, round: { name } }) as unknown as ShownDocket;

function Docket({ first, load, offered }: { first: ShownDocket; load: () => Promise<ShownDocket | undefined>; offered: (look: () => void) => void }) {
  const [shown, look] = useLatestDocket(first, load);
  offered(look);
  return <p>{shown.round.name}</p>;
}

it("a docket stays as it is while nobody answers, and is as it was loaded last", async () => {
  let [look, answer] = [() => undefined as void, () => Promise.reject<ShownDocket | undefined>(new TypeError("Failed to fetch"))];
  const load = () => answer();
  const element = (first: ShownDocket) => <Docket first={first} load={load} offered={(given) => (look = given)} />;
  const first = docket("as the page came");
  const { rerender } = render(element(first));
  const looks = () => act(() => Promise.resolve(look()));
  await looks();
  expect(screen.getByText("as the page came")).toBeTruthy();
  answer = () => Promise.resolve(docket("as decided elsewhere"));
  // Somebody comes back to this device.
  await act(() => Promise.resolve(void document.dispatchEvent(new Event("visibilitychange"))));
  expect(screen.getByText("as decided elsewhere")).toBeTruthy();
  // It is not theirs any more: what they see stays until the page is left.
  answer = () => Promise.resolve(undefined);
  await looks();
  expect(screen.getByText("as decided elsewhere")).toBeTruthy();
  rerender(element(first));
  expect(screen.getByText("as decided elsewhere")).toBeTruthy();
  rerender(element(docket("in another language")));
  expect(screen.getByText("in another language")).toBeTruthy();
});
