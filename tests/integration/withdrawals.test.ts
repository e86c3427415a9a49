import { readdirSync, readFileSync } from "node:fs";
import { describe, expect, it } from "@jest/globals";
import { normalText } from "@/core/facility/normal-form";
import { answerWithdrawal, withdrawalArguments } from "@/cli/withdraw";
import { readFacility } from "@/intake/formats/facility/read-facility";

/** Generated documents, answered by a slow program that follows the text of "Withdrawal, exactly". */
interface WithdrawalCase {
  readonly facility: unknown;
  readonly arguments: readonly string[];
  readonly line: { readonly searched: string };
}

const folder = new URL("../cases/withdrawals/", import.meta.url);

describe("nomade withdraw", () => {
  it.each(readdirSync(folder))("answers %s as it was worked out", (name) => {
    const { facility, arguments: args, line } = JSON.parse(readFileSync(new URL(name, folder), "utf8")) as WithdrawalCase;
    const checked = readFacility(JSON.stringify(facility));
    if (!checked.ok) throw new Error(JSON.stringify(checked.error));
    const answer = answerWithdrawal(checked.value.facility, withdrawalArguments(args).values);
    expect(JSON.parse(JSON.stringify(answer.line))).toEqual(line);
    expect(answer.after === undefined).toBe(line.searched === "none");
    // The changed document is one that can be taken in, and says the same in its normal form.
    if (answer.after) expect(readFacility(normalText(answer.after)).ok).toBe(true);
  });

  it.each([
    [["--cardholder", "nobody", "--door", "door1"], "There is no cardholder nobody"],
    [["--cardholder", "p1", "--door", "nowhere"], "There is no door nowhere"],
    [["--cardholder", "p1"], "doors (--door, once or more) or an area"],
    [["--cardholder", "p1", "--door", "door1", "--area", "area1"], "doors (--door, once or more) or an area"],
    [["--door", "door1"], "one of --cardholder and --credential"],
    [["--cardholder", "p1", "--door", "door1", "--keep-until", "2010-02-30"], "takes a date"],
    [["--cardholder", "p1", "--door", "door1", "--keep-schedule", "nix"], "There is no schedule nix"],
    [["--cardholder", "p1", "--door", "door1", "--horizon-days", "0"], "from 1 to 3660"],
    [["--return", "c1", "--door", "door1"], "--return stands in place of"],
    [["--return", "nix"], "There is no credential nix"],
    [["--credential", "c1", "--door", "door1"], "has a cardholder"],
  ])("refuses %j", (args, message) => {
    const { facility } = JSON.parse(readFileSync(new URL("01.json", folder), "utf8")) as WithdrawalCase;
    const checked = readFacility(JSON.stringify(facility));
    if (!checked.ok) throw new Error(JSON.stringify(checked.error));
    const document = checked.value.facility;
    expect(() => answerWithdrawal(document, withdrawalArguments(args).values)).toThrow(message);
  });
});
