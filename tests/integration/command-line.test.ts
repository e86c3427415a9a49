import { spawnSync } from "node:child_process";
import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { afterAll, describe, expect, it } from "@jest/globals";
import { facilityDraft } from "../builders";

const folder = mkdtempSync(path.join(tmpdir(), "nomade-cli-"));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const written = (name: string, content: unknown): string => {
  const file = path.join(folder, name);
  writeFileSync(file, typeof content === "string" ? content : JSON.stringify(content));
  return file;
};
const nomade = (...args: readonly string[]) => {
  const { status, stdout, stderr } = spawnSync(process.execPath, ["dist/nomade.mjs", ...args], { encoding: "utf8" });
  return {
    status,
    stderr,
    lines: stdout
      .split("\n")
      .filter(Boolean)
      .map((line) => JSON.parse(line) as Record<string, unknown>),
  };
};

const good = written(
  "good.json",
  facilityDraft({
    doors: [
      { id: "gate", name: "Gate", site: "garden", unlock: "office" },
      { id: "Shed", name: "Shed", site: "garden" },
    ],
    credentials: [
      { id: "c2", cardholder: "iris", kind: "fob", status: "active" },
      { id: "c1", cardholder: "iris", kind: "card", status: "active", until: "2026-03-02T09:00:00Z" },
      { id: "c3", kind: "card", status: "active" },
    ],
    grants: [
      { id: "a", to: { cardholder: "iris" }, open: { door: "gate" }, schedule: "office" },
      { id: "b", to: { credential: "c3" }, open: { door: "Shed" }, schedule: "always" },
    ],
  }),
);
const day = ["--from", "2026-03-02T00:00:00Z", "--to", "2026-03-03T00:00:00Z"] as const;

describe("nomade resolve", () => {
  it("prints a line for each pair that opens at all, by credential and then door in code-point order", () => {
    expect(nomade("resolve", good, ...day).lines).toEqual([
      { credential: "c1", door: "gate", open: [["2026-03-02T07:00Z", "2026-03-02T09:00Z"]] },
      { credential: "c2", door: "gate", open: [["2026-03-02T07:00Z", "2026-03-02T17:00Z"]] },
      { credential: "c3", door: "Shed", open: [["2026-03-02T00:00Z", "2026-03-03T00:00Z"]] },
    ]);
  });

  it("prints cardholders with the union of their credentials, and free times by door", () => {
    expect(nomade("resolve", good, ...day, "--by", "cardholder").lines).toEqual([
      { cardholder: "iris", door: "gate", open: [["2026-03-02T07:00Z", "2026-03-02T17:00Z"]] },
    ]);
    expect(nomade("resolve", good, ...day, "--by", "free").lines).toEqual([{ door: "gate", free: [["2026-03-02T07:00Z", "2026-03-02T17:00Z"]] }]);
  });

  it("rounds --from down and --to up to the minute", () => {
    expect(nomade("resolve", good, "--from", "2026-03-02T10:00:30Z", "--to", "2026-03-02T10:01:30Z", "--credential", "c2").lines).toEqual([
      { credential: "c2", door: "gate", open: [["2026-03-02T10:00Z", "2026-03-02T10:02Z"]] },
    ]);
  });

  it("says wrong usage in a sentence with status 2", () => {
    const wrong: readonly (readonly string[])[] = [
      ["resolve", good, "--from", "2026-03-02T00:00:00Z", "--to", "2026-03-02T00:00:00Z"],
      ["resolve", good, ...day, "--by", "free", "--credential", "c1"],
      ["resolve", good, ...day, "--by", "cardholder", "--credential", "c1"],
      ["resolve", good, ...day, "--door", "none"],
      ["resolve", path.join(folder, "absent.json"), ...day],
      ["resolve", good, ...day, "--colour"],
      ["nonsense"],
      [],
    ];
    for (const args of wrong) {
      const { status, stderr, lines } = nomade(...args);
      expect([args, status, lines, stderr.length > 10, /\n\s+at /.test(stderr)]).toEqual([args, 2, [], true, false]);
    }
  });
});

describe("nomade ask", () => {
  it("gives the verdict, the reason and the paths", () => {
    const [answer] = nomade("ask", good, "--credential", "c1", "--door", "gate", "--at", "2026-03-02T09:30:00Z").lines;
    expect(answer).toMatchObject({
      verdict: "closed",
      reason: "expired",
      paths: [{ effect: "allow", state: "open", grant: "a", by: "cardholder", schedules: ["office"] }],
    });
    expect(nomade("ask", good, "--credential", "c1", "--door", "gate", "--at", "2026-03-02T09:30:00Z", "--as-if-live").lines[0]).toMatchObject({
      verdict: "open",
      reason: "open",
    });
  });

  it("answers a batch in order, a line that is no question with an error and status 1", () => {
    const batch = written(
      "batch.jsonl",
      [
        '{"credential":"c2","door":"gate","at":"2026-03-02T08:00Z"}',
        "",
        "nonsense",
        '{"credential":"x","door":"gate","at":"2026-03-02T08:00Z"}',
        '{"credential":"c2","door":"gate","at":"monday"}',
      ].join("\n"),
    );
    const { status, lines } = nomade("ask", good, "--batch", batch);
    expect(status).toBe(1);
    expect(lines.map((line) => line.reason ?? Object.keys(line).join())).toEqual(["open", "error", "error", "unknown-credential", "error"]);
  });
});

describe("nomade compare", () => {
  it("prints what changed by cardholder and door, with what brought it about", () => {
    const later = written(
      "later.json",
      facilityDraft({
        doors: [{ id: "gate", name: "Gate", site: "garden" }],
        grants: [{ id: "a", to: { cardholder: "iris" }, open: { door: "gate" }, schedule: "always" }],
      }),
    );
    const earlier = written(
      "earlier.json",
      facilityDraft({
        doors: [{ id: "gate", name: "Gate", site: "garden" }],
        grants: [{ id: "a", to: { cardholder: "iris" }, open: { door: "gate" }, schedule: "office" }],
      }),
    );
    expect(nomade("compare", earlier, later, ...day).lines).toEqual([
      { cardholder: "iris", door: "gate", change: "hours", minutesMore: 840, minutesLess: 0, causes: [{ kind: "grant", id: "a", what: "changed" }] },
    ]);
    expect(nomade("compare", earlier, earlier, ...day).lines).toEqual([]);
    expect(nomade("compare", earlier, ...day).status).toBe(2);
  });
});

describe("nomade check", () => {
  it("prints notes with status 0 and errors with status 1, on standard output", () => {
    const odd = nomade("check", written("odd.json", facilityDraft({ schedules: [{ id: "s", name: "S", week: { mon: [["08:00", "08:00"]] } }] })));
    expect([odd.status, odd.lines]).toEqual([0, [expect.objectContaining({ level: "note", path: "schedules[0].week.mon[0]", code: "empty-interval" })]]);
    const wrong = nomade("check", written("wrong.json", { format: "nomade.facility/1" }));
    expect([wrong.status, wrong.lines.map(({ path: at }) => at)]).toEqual([1, ["name", "timeZone", "asOf"]]);
  });

  it("says of a refused document on standard error what resolve and ask refuse", () => {
    const refused = nomade("resolve", written("wrong.json", { format: "nomade.facility/1" }), ...day);
    expect(refused.status).toBe(1);
    expect(
      refused.stderr
        .split("\n")
        .filter(Boolean)
        .map((line) => (JSON.parse(line) as { path: string }).path),
    ).toEqual(["name", "timeZone", "asOf"]);
  });
});
