/** @jest-environment jsdom */
import { beforeEach, describe, expect, it } from "@jest/globals";
import { screen } from "@testing-library/react";
import { show } from "~/tests/components/show";
import { Seeing } from "../shell/seeing";
import type { AskedQuestion } from "./question-line";
import { nothingAsked } from "./question-line";
import { RecentQuestions, Remembered } from "./recent-questions";
import { queryInWords, rememberTyped } from "./typed-times";

const asked = (door: string, lockdown = false): AskedQuestion => ({
  inquiry: { ...nothingAsked.inquiry, where: { kind: "door", id: door }, lockdown },
  names: { who: undefined, where: `Door ${door}` },
});
const remember = (who: string, ...questions: readonly AskedQuestion[]): void => {
  for (const question of questions)
    show(
      <Seeing signIn={who} whole record>
        <Remembered asked={question} />
      </Seeing>,
    ).unmount();
};
const listed = (who: string): readonly (string | null)[] => {
  const { unmount } = show(
    <Seeing signIn={who} whole record>
      <RecentQuestions />
    </Seeing>,
  );
  const links = screen.queryAllByRole("link").map(({ textContent }) => textContent);
  unmount();
  return links;
};

beforeEach(() => window.sessionStorage.clear());

describe("what was asked before in a window", () => {
  it("stands there the latest first, each question once, under which conditions it was asked", () => {
    remember("tessa", asked("a"), asked("b", true), asked("a"));
    expect(listed("tessa")).toEqual(["Who opens Door a?", "Who opens Door b, in a lockdown?"]);
  });

  it("is nobody else's who signs in there", () => {
    remember("tessa", asked("vault"));
    expect(listed("theo")).toEqual([]);
  });

  it("is nothing where what was kept is no list of questions", () => {
    remember("tessa", asked("a"));
    const [key = ""] = Object.keys(window.sessionStorage);
    for (const text of ["", "{", "7", '[{"href":"https://elsewhere.test","sentence":"Who?"}]', '[{"href":"/inquiry?who=everybody"}]']) {
      window.sessionStorage.setItem(key, text);
      expect(listed("tessa")).toEqual([]);
    }
  });
});

describe("a time as it was typed", () => {
  it("is what is kept of a question; with its dates where nobody remembers the words", () => {
    const when = { kind: "dates" as const, from: 20_785 as never, to: 20_786 as never };
    const { inquiry } = asked("vault");
    const dated = new URLSearchParams(queryInWords({ ...inquiry, when })).get("when");
    expect(dated).toMatch(/^\d{4}-\d\d-\d\d\//);
    rememberTyped(when, "next two days");
    expect(new URLSearchParams(queryInWords({ ...inquiry, when })).get("when")).toBe("next two days");
    expect(new URLSearchParams(queryInWords(inquiry)).get("when")).toBeNull();
  });
});
