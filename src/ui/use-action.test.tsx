/** @jest-environment jsdom */
import { describe, expect, it } from "@jest/globals";
import { UnstyledButton } from "@mantine/core";
import { screen, waitForElementToBeRemoved } from "@testing-library/react";
import { show } from "~/tests/components/show";
import { useAction } from "./use-action";

function Sender({ act }: { readonly act: () => Promise<string | undefined> }) {
  const { busy, refused, run } = useAction();
  return (
    <>
      <UnstyledButton disabled={busy} onClick={() => run(act)}>
        Send
      </UnstyledButton>
      <p role="status">{refused}</p>
    </>
  );
}

const send = () => screen.getByRole<HTMLButtonElement>("button", { name: "Send" });

describe("an action", () => {
  it("is under way until its answer is there, and says why it was refused", async () => {
    let answer: (words: string | undefined) => void = () => undefined;
    const { user } = show(<Sender act={() => new Promise((resolve) => (answer = resolve))} />);
    await user.click(send());
    expect(send().disabled).toBe(true);
    answer("It is signed already.");
    await screen.findByText("It is signed already.");
    expect(send().disabled).toBe(false);
  });

  it("is released where no answer comes, and says so until it is set off again", async () => {
    const answers = [Promise.reject(new Error("the network is gone")), Promise.resolve(undefined)];
    answers[0]?.catch(() => undefined);
    const { user } = show(<Sender act={() => answers.shift() as Promise<string | undefined>} />);
    await user.click(send());
    await screen.findByText("No answer from the server");
    expect(send().disabled).toBe(false);
    await user.click(send());
    await waitForElementToBeRemoved(() => screen.queryByText("No answer from the server"));
  });
});
