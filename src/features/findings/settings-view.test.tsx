/** @jest-environment jsdom */
import { describe, expect, it } from "@jest/globals";
import { screen, waitFor, within } from "@testing-library/react";
import type { KeepOutcome, RefusedSettings, SettingsEffect, SettingsSheet } from "@/operations/findings/rule-settings";
import { show } from "~/tests/components/show";
import { namedFinding } from "~/tests/named-finding";
import { SettingsView } from "./settings-view";

const shown: SettingsSheet = {
  version: 3,
  settings: { format: "nomade.rules/1", duties: [{ id: "keys", a: { area: "vault" }, b: { level: "keys" } }] },
  secondPersonFrom: 60,
  proposed: undefined,
  sites: [{ id: "garden", name: "Garden" }],
  areas: [{ id: "vault", name: "Seed vault" }],
  levels: [{ id: "keys", name: "Key safe" }],
  schedules: [{ id: "late", name: "Late shift", rows: { week: {} } }],
};

const effect: SettingsEffect = {
  outcome: "worked-out",
  come: [namedFinding("many-credentials", { credentials: ["c1", "c2"] })],
  comeCount: 1,
  gone: [],
  goneCount: 0,
  byRule: [{ rule: "many-credentials", come: 1, gone: 0 }],
  beyond: [],
  weighed: 0,
};

function shownSettings(
  previewed: SettingsEffect | RefusedSettings | undefined = effect,
  kept: KeepOutcome | { readonly outcome: "proposed" } | undefined = { outcome: "proposed" },
  mayEdit = true,
) {
  const sent: unknown[] = [];
  const actions = {
    preview: (text: string) => {
      sent.push(["preview", JSON.parse(text)]);
      return Promise.resolve(previewed);
    },
    keep: (asked: { readonly text: string; readonly instead: number }) => {
      sent.push(["keep", JSON.parse(asked.text), asked.instead]);
      return Promise.resolve(kept);
    },
    confirm: () => Promise.resolve({ outcome: "kept" as const }),
    drop: () => Promise.resolve(true),
  };
  return { ...show(<SettingsView shown={shown} rules={[]} timeZone="Europe/Vienna" mayEdit={mayEdit} actions={actions} />), sent };
}

const margin = () => within(screen.getByRole("complementary"));
/** Presses a button of the margin, once what is under way is done. */
async function press(user: ReturnType<typeof shownSettings>["user"], name: string): Promise<void> {
  await waitFor(() => expect(margin().getByRole<HTMLButtonElement>("button", { name }).disabled).toBe(false));
  await user.click(margin().getByRole("button", { name }));
}

const leaveDutyOut = async (user: ReturnType<typeof shownSettings>["user"]): Promise<void> => {
  const row = screen.getByText("Seed vault and Key safe").closest("tr");
  if (row) await user.click(within(row).getByRole("button", { name: "Leave out" }));
};

describe("how rules judge", () => {
  it("cannot be kept before it was seen what would come and go", async () => {
    const { user, sent } = shownSettings();
    margin().getByText("Nothing is changed yet.");
    await leaveDutyOut(user);
    expect(margin().getByRole<HTMLButtonElement>("button", { name: "Propose it" }).disabled).toBe(true);
    await press(user, "See what it would do");
    await margin().findByText(/One finding would come, none would go\./);
    margin().getByText(/^Ada Tannwald: /);
    await press(user, "Propose it");
    await margin().findByText(/Proposed\. A second reviewer or an administrator has to confirm it/);
    const without = { format: "nomade.rules/1" };
    expect(sent).toEqual([
      ["preview", expect.objectContaining(without)],
      ["keep", expect.objectContaining(without), 3],
    ]);
    expect(JSON.stringify(sent)).not.toContain("vault");
  });

  it("tells of a rule that finds too much only how much, and of no other that it is the only one", async () => {
    const { user } = shownSettings({ ...effect, come: [], comeCount: 0, byRule: [], beyond: [{ rule: "unused", was: 25_000, is: 30_000 }], weighed: 2 });
    await leaveDutyOut(user);
    await press(user, "See what it would do");
    await margin().findByText(/No other finding would come or go; two weigh something else\./);
    margin().getByText(/finds 25,000 at present and would find 30,000: too many to say which come and go\./);
  });

  it("says everything that is wrong at once", async () => {
    const { user } = shownSettings({ outcome: "refused", errors: ["duties[0]: no", "weights: no"] });
    await leaveDutyOut(user);
    await press(user, "See what it would do");
    const alerts = await margin().findAllByRole("alert");
    expect(alerts.map(({ textContent }) => textContent)).toEqual(["duties[0]: no", "weights: no"]);
  });

  it("does not overwrite what somebody else set meanwhile", async () => {
    const { user } = shownSettings(effect, { outcome: "changed-meanwhile" });
    await leaveDutyOut(user);
    await press(user, "See what it would do");
    await margin().findByText(/One finding would come/);
    await press(user, "Propose it");
    expect((await margin().findByRole("alert")).textContent).toContain("Somebody else changed them meanwhile.");
  });

  it("forgets what was worked out once something else is changed, and goes back to what is in force", async () => {
    const { user } = shownSettings();
    await leaveDutyOut(user);
    await press(user, "See what it would do");
    await margin().findByText(/One finding would come/);
    await press(user, "Back to what is in force");
    expect(margin().queryByText(/One finding would come/)).toBeNull();
    screen.getByText("Seed vault and Key safe");
  });

  it("is only shown to whoever may not change it", () => {
    shownSettings(effect, undefined, false);
    expect(screen.queryByRole("button", { name: "Leave out" })).toBeNull();
    margin().getByText("Reviewers and administrators change these.");
  });
});
