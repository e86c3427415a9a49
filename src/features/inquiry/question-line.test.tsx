/** @jest-environment jsdom */
import { describe, expect, it } from "@jest/globals";
import { screen, waitFor } from "@testing-library/react";
import { show } from "~/tests/components/show";
import type { AskedQuestion } from "./question-line";
import { nothingAsked, QuestionLine } from "./question-line";

const item = (id: string, name: string, status = "active") => ({ kind: "cardholder", id, name, detail: "Herbarium", status });
const vaultAsked: AskedQuestion = {
  ...nothingAsked,
  inquiry: { ...nothingAsked.inquiry, where: { kind: "door", id: "d1" } },
  names: { who: undefined, where: "Vault door" },
};

const people = (address: string): unknown =>
  address.includes("part=who")
    ? { items: address.includes("text=tann") ? [item("1001", "Ada Tannwald"), item("1002", "Bo Tannwald", "left")] : [] }
    : undefined;

describe("the question line", () => {
  it("asks who opens what that is filled in, as an address", async () => {
    const { user, went, asked } = show(<QuestionLine asked={vaultAsked} />, people);
    await user.click(screen.getByRole("button", { name: "Who: left open" }));
    await user.keyboard("tann");
    // Until they have come, what was offered before anything was typed stays.
    await waitFor(() =>
      expect(screen.getAllByRole("option").map(({ textContent }) => textContent)).toEqual([
        "Ada Tannwaldcardholder · Herbarium",
        "Bo Tannwaldcardholder · Herbarium · left",
      ]),
    );
    await user.keyboard("{ArrowDown}{Enter}");
    expect(went).toHaveLength(1);
    expect(decodeURIComponent(went[0] ?? "")).toMatch(/1002.*d1|d1.*1002/);
    // Every letter is not asked for by itself.
    expect(asked.filter((address) => address.includes("text=t")).length).toBeLessThan(4);
  });

  it("takes the first suggestion where Enter came before the suggestions did", async () => {
    const { user, went } = show(<QuestionLine asked={vaultAsked} />, people);
    await user.click(screen.getByRole("button", { name: "Who: left open" }));
    await user.keyboard("tann{Enter}");
    await screen.findByRole("button", { name: "Who: left open" });
    expect(decodeURIComponent(went.join())).toContain("1001");
  });

  it("says that nothing has what was typed, and that it could not be searched where no answer came", async () => {
    const { user, again } = show(<QuestionLine asked={nothingAsked} />, (address) => (address.includes("part=where") ? undefined : people(address)));
    await user.click(screen.getByRole("button", { name: "Who: left open" }));
    await user.keyboard("zzz");
    await screen.findByText("Nothing in the register has this in any field.");
    await user.keyboard("{Escape}");
    again(<QuestionLine asked={nothingAsked} />);
    await user.click(screen.getByRole("button", { name: "what: left open" }));
    await screen.findByText("The register cannot be searched at the moment. Try again.");
  });

  it("asks of a lockdown only where there is a question", async () => {
    const { user, went, again } = show(<QuestionLine asked={nothingAsked} />);
    expect(screen.getByRole<HTMLButtonElement>("button", { name: "x in a lockdown" }).disabled).toBe(true);
    again(<QuestionLine asked={vaultAsked} />);
    await user.click(screen.getByRole("button", { name: "x in a lockdown" }));
    expect(went[0]).toContain("lockdown");
  });

  it("goes on with what is being typed when another line takes its place, as it does when an answer comes", async () => {
    const { user, again, went } = show(<QuestionLine key="awaited" asked={vaultAsked} />, people);
    await user.click(screen.getByRole("button", { name: "Who: left open" }));
    await user.keyboard("ta");
    again(<QuestionLine key="answered" asked={vaultAsked} />);
    const input = await screen.findByRole("textbox", { name: "Who" });
    expect((input as HTMLInputElement).value).toBe("ta");
    await user.keyboard("nn");
    await waitFor(() => expect(screen.getAllByRole("option")[0]?.textContent).toContain("Ada Tannwald"));
    await user.keyboard("{Enter}");
    expect(went).toHaveLength(1);
    // Of another question nothing is being typed.
    again(<QuestionLine key="other" asked={nothingAsked} />);
    expect(screen.queryByRole("textbox")).toBeNull();
  });

  it("is left as it was on Escape, and when somebody turns to something else", async () => {
    const { user, went } = show(
      <>
        <QuestionLine asked={vaultAsked} />
        <button type="button">Elsewhere</button>
      </>,
      people,
    );
    const open = async (): Promise<void> => user.click(screen.getByRole("button", { name: "Who: left open" }));
    await open();
    await user.keyboard("x{Escape}");
    await waitFor(() => expect(screen.queryByRole("textbox")).toBeNull());
    await open();
    expect(screen.getByRole<HTMLInputElement>("textbox", { name: "Who" }).value).toBe("");
    await user.click(screen.getByRole("button", { name: "Elsewhere" }));
    await waitFor(() => expect(screen.queryByRole("textbox")).toBeNull());
    expect(went).toEqual([]);
  });
});
