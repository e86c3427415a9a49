/** @jest-environment jsdom */
import { describe, expect, it } from "@jest/globals";
import { screen, waitFor } from "@testing-library/react";
import type { NamedFinding } from "@/operations/findings/list-findings";
import type { WaiverOutcome } from "@/operations/findings/triage";
import { show } from "~/tests/components/show";
import { namedFinding } from "~/tests/named-finding";
import { FindingTriage } from "./finding-triage";

const plain = namedFinding("many-credentials", { credentials: ["c1"] });
const waiver = {
  id: 9,
  fingerprint: plain.fingerprint,
  reason: "The owner is named in spring.",
  until: "2027-03-01",
  risk: 40,
  madeAt: "2026-11-01T08:00:00Z",
};

function shownTriage(finding: NamedFinding, outcome: WaiverOutcome = { outcome: "waived" }, isDone = true) {
  const done: unknown[] = [];
  const settle = (what: string) => (id: number) => {
    done.push([what, id]);
    return Promise.resolve(isDone);
  };
  const actions = {
    waive: (asked: unknown) => {
      done.push(["waive", asked]);
      return Promise.resolve(outcome);
    },
    confirm: settle("confirm"),
    end: settle("end"),
    note: (fingerprint: string, note: string) => {
      done.push(["note", fingerprint, note]);
      return Promise.resolve(note !== "");
    },
    assign: (fingerprint: string, assignee: string | undefined) => {
      done.push(["assign", fingerprint, assignee]);
      return Promise.resolve(true);
    },
  };
  const page = show(<FindingTriage finding={finding} snapshot={3} signIn="tessa" assignees={["tessa", "viggo"]} secondPersonFrom={60} actions={actions} />);
  return { ...page, done };
}

const button = (name: string) => screen.getByRole<HTMLButtonElement>("button", { name });

describe("what is done about a finding", () => {
  it("is begun by a key each: waive, note, make it one's task, have it certified", async () => {
    const { user, done, went } = shownTriage(plain);
    await user.keyboard("t");
    expect(done).toEqual([["assign", plain.fingerprint, "tessa"]]);
    await user.keyboard("c");
    expect(went).toEqual(["/certification/new?about=cardholder%3Ap1"]);
    await user.keyboard("n");
    await user.type(screen.getByLabelText("A note for whoever looks next"), "Asked.");
    await user.click(button("Keep the note"));
    expect(done[1]).toEqual(["note", plain.fingerprint, "Asked."]);
    await user.keyboard("w");
    screen.getByLabelText("Why it may stay");
  });

  it("has no round where it is about no person and no card", async () => {
    const { user, went } = shownTriage(namedFinding("door-only-free", { minutes: 60, week: "2026-03-02" }, { kind: "door" }));
    expect(screen.queryByRole("link", { name: "Into a round …" })).toBeNull();
    await user.keyboard("c");
    expect(went).toEqual([]);
  });

  it.each([
    ["reason-too-short", "at least ten letters"],
    ["date-too-far", "a year at most"],
    ["date-past", "That date is over"],
    ["no-date", "Give the last date"],
    ["waived-already", "waived already"],
    ["no-finding", "not in the snapshot any more"],
  ] as const)("says in words why a waiver was refused (%s), and keeps what was typed", async (why, words) => {
    const { user, done } = shownTriage(plain, { outcome: "refused", why });
    await user.click(button("Waive …"));
    await user.type(screen.getByLabelText("Why it may stay"), "Needed for the harvest.");
    await user.click(button("Waive it"));
    expect((await screen.findByRole("alert")).textContent).toContain(words);
    expect(screen.getByLabelText<HTMLTextAreaElement>("Why it may stay").value).toBe("Needed for the harvest.");
    expect(done).toEqual([["waive", { snapshot: 3, fingerprint: plain.fingerprint, reason: "Needed for the harvest.", until: "" }]]);
  });

  it("tells beforehand that a second person has to confirm what weighs much", async () => {
    const { user } = shownTriage({ ...plain, risk: 60 });
    await user.click(button("Waive …"));
    screen.getByText(/It weighs 60 or more: it is hidden only when somebody else confirms the waiver\./);
    button("Ask for the waiver");
  });

  it("lets somebody else confirm or refuse a waiver that waits, and its maker only take it back", async () => {
    const waiting = { ...waiver, madeBy: "viggo", confirmedBy: undefined };
    const { user, done, unmount } = shownTriage({ ...plain, waiver: waiting });
    expect(screen.queryByRole("button", { name: "Waive …" })).toBeNull();
    await user.click(button("Confirm it"));
    // One thing at a time: the other waits until this one is done.
    await waitFor(() => expect(button("Refuse it").disabled).toBe(false));
    await user.click(button("Refuse it"));
    expect(done).toEqual([
      ["confirm", 9],
      ["end", 9],
    ]);
    unmount();
    shownTriage({ ...plain, waiver: { ...waiting, madeBy: "tessa" } });
    expect(screen.queryByRole("button", { name: "Confirm it" })).toBeNull();
    button("Take it back");
    screen.getByText(/until then nothing is hidden/);
  });

  it("says where somebody was quicker", async () => {
    const { user } = shownTriage({ ...plain, waiver: { ...waiver, madeBy: "viggo", confirmedBy: undefined } }, undefined, false);
    await user.click(button("Confirm it"));
    await screen.findByText(/Somebody was quicker/);
  });
});
