import { describe, expect, it } from "@jest/globals";
import { decideLine, isUnremarkable } from "./decide-line";
import type { DecisionCounts } from "./sign-docket";
import { signDocket } from "./sign-docket";
import { signingStatement } from "./signing-statement";

const mine = { flagged: false, signed: false, mine: true };

describe("deciding a line", () => {
  it("takes a reason to keep what something speaks against, white space being none", () => {
    expect(decideLine({ ...mine, flagged: true }, { decision: "keep", reason: "  \n" })).toEqual({ ok: false, error: "reason-needed" });
    expect(decideLine({ ...mine, flagged: true }, { decision: "keep", reason: " harvest " })).toEqual({
      ok: true,
      value: { decision: "keep", reason: "harvest" },
    });
    expect(decideLine({ ...mine, flagged: true }, { decision: "withdraw", reason: "" }).ok).toBe(true);
  });

  it("takes no reason of which nothing can be read: zero-width, filling and blank characters, or marks alone", () => {
    for (const reason of [
      "\u200b",
      "\u200b\u2060\ufeff",
      "\u3164",
      "\u115f\u1160",
      "\u2800\u2800",
      "\u00ad",
      "\u00a0\u3000",
      "\u202e\u202c",
      "\u0000",
      "...",
      "—",
      "\u0301",
      "\u{e0041}",
    ])
      expect([reason, decideLine({ ...mine, flagged: true }, { decision: "keep", reason })]).toEqual([reason, { ok: false, error: "reason-needed" }]);
    expect(decideLine({ ...mine, flagged: true }, { decision: "keep", reason: "\u200b\u200b Ernte 7 \u00a0\u200b" })).toEqual({
      ok: true,
      value: { decision: "keep", reason: "Ernte 7" },
    });
  });

  it("takes no reason that only agrees", () => {
    for (const reason of ["ok", "OK.", "yes, fine", "x", "xxxxxxxx", "passt", "12"])
      expect([reason, decideLine({ ...mine, flagged: true }, { decision: "keep", reason })]).toEqual([reason, { ok: false, error: "reason-needed" }]);
    for (const reason of ["harvest", "夜勤", "Nachtdienst bis März", "needed for the press"])
      expect([reason, decideLine({ ...mine, flagged: true }, { decision: "keep", reason }).ok]).toEqual([reason, true]);
    const narrowing = { kind: "hours", schedule: "day" } as const;
    expect(decideLine({ ...mine, flagged: true }, { decision: "narrow", narrowing, reason: "" })).toEqual({ ok: false, error: "reason-needed" });
  });

  it("lets nobody certify themself, and nobody pass on what was passed on to them", () => {
    const about = { ...mine, aboutDecider: true };
    expect(decideLine(about, { decision: "keep", reason: "" })).toEqual({ ok: false, error: "about-yourself" });
    expect(decideLine(about, { decision: "pass-on", to: 7, reason: "" }).ok).toBe(true);
    expect(decideLine({ ...mine, wasPassedOn: true }, { decision: "pass-on", to: 7, reason: "" })).toEqual({ ok: false, error: "passed-on-already" });
    expect(decideLine({ ...mine, closed: true }, { decision: "keep", reason: "" })).toEqual({ ok: false, error: "round-closed" });
  });

  it("is refused on a signed docket and on somebody else's, whatever is decided", () => {
    expect(decideLine({ ...mine, signed: true }, { decision: "withdraw", reason: "" })).toEqual({ ok: false, error: "docket-signed" });
    expect(decideLine({ ...mine, mine: false, signed: true }, { decision: "keep", reason: "x" })).toEqual({ ok: false, error: "not-yours" });
  });

  it("lets lines be kept together where nothing speaks against them and half of the peers have the same", () => {
    const line = { findings: [], life: undefined, peers: { same: 2, of: 4 } };
    expect(isUnremarkable(line)).toBe(true);
    expect(isUnremarkable({ ...line, peers: { same: 1, of: 4 } })).toBe(false);
    expect(isUnremarkable({ ...line, peers: { same: 0, of: 0 } })).toBe(false);
    expect(isUnremarkable({ ...line, findings: [1] })).toBe(false);
    expect(isUnremarkable({ ...line, life: { kind: "asleep", places: "Seed vault" } })).toBe(false);
  });
});

describe("signing a docket", () => {
  const line = (id: number, decision: "keep" | "withdraw" | undefined) => ({ id, decision, reason: "", content: { about: id } });
  const stated = (counts: DecisionCounts) => () => signingStatement("en", "Dagmar Holmwold", counts);
  const counts = { keep: 2, withdraw: 1, narrow: 0, "pass-on": 0 };
  const docket = { round: 1, docket: 2, snapshot: "abc", certifier: "dagmar" };

  it("is refused while a line is undecided, saying how many are", () => {
    expect(signDocket({ ...docket, lines: [line(1, "keep"), line(2, undefined), line(3, undefined)] }, stated(counts))).toEqual({
      ok: false,
      error: { undecided: 2 },
    });
  });

  it("states in words what is signed, and binds every line, decision and reason into the text that is hashed", () => {
    const signed = signDocket({ ...docket, lines: [line(1, "keep"), line(2, "withdraw"), line(3, "keep")] }, stated(counts));
    if (!signed.ok) throw new Error("refused");
    expect(signed.value.statement).toBe("I, Dagmar Holmwold, have looked at each of these 3 lines. 2 are needed and stay; 1 is to be withdrawn.");
    expect(signingStatement("de", "Dagmar Holmwold", { keep: 2, withdraw: 1, narrow: 1, "pass-on": 0 })).toBe(
      "Ich, Dagmar Holmwold, habe jede dieser 4 Zeilen angesehen. 2 werden gebraucht und bleiben; 1 bleibt nur zum Teil; 1 ist zu entziehen.",
    );
    const none = { keep: 0, withdraw: 0, narrow: 0, "pass-on": 0 };
    expect(signingStatement("en", "Dagmar Holmwold", none, { ...none, keep: 4, withdraw: 1 })).toBe(
      "I, Dagmar Holmwold, have looked at each of these 5 lines. Of 5 definitions 4 are as they should be; 1 needs changing.",
    );
    expect(signingStatement("de", "Dagmar Holmwold", counts, { ...none, keep: 1 })).toBe(
      "Ich, Dagmar Holmwold, habe jede dieser 4 Zeilen angesehen. 2 werden gebraucht und bleiben; 1 ist zu entziehen. Von der einen Festlegung: 1 ist, wie sie sein soll; 0 sind zu ändern.",
    );
    const other = signDocket({ ...docket, lines: [line(1, "keep"), line(2, "withdraw"), { ...line(3, "keep"), reason: "changed" }] }, stated(counts));
    expect(other.ok && other.value.signedText).not.toBe(signed.value.signedText);
  });
});
