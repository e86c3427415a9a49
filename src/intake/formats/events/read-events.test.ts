import { Readable } from "node:stream";
import { describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import type { ReadEvent } from "./read-events";
import { isPlainlyValid, readEvents, rowSchema } from "./read-events";

async function read(text: string): Promise<ReadEvent[]> {
  const rows: ReadEvent[] = [];
  for await (const row of readEvents(Readable.from([Buffer.from(text)]))) rows.push(row);
  return rows;
}
describe("events as JSON Lines", () => {
  const lines = async (text: string | Buffer): Promise<ReadEvent[]> => {
    const rows: ReadEvent[] = [];
    // In small pieces, so that lines and characters are cut.
    for await (const row of readEvents(
      Readable.from(
        Buffer.from(text as string)
          .toString("latin1")
          .match(/[\s\S]{1,7}/g)
          ?.map((piece) => Buffer.from(piece, "latin1")) ?? [],
      ),
      "jsonl",
    ))
      rows.push(row);
    return rows;
  };
  const refusal = (text: string | Buffer): Promise<string> =>
    lines(text).then(
      () => "accepted",
      (error: Error) => error.message,
    );
  const good = '{"at":"2026-03-02T08:00:00Z","door":"Tür","credential":"c1","result":"granted"}';

  it("are read line by line, the last with or without an end, empty ones passed over", async () => {
    expect(await lines(`${good}\r\n\n${good.replace("granted", "refused")}`)).toEqual([
      { at: Date.parse("2026-03-02T08:00Z") / 60_000, door: "Tür", credential: "c1", result: "granted", reason: undefined },
      { at: Date.parse("2026-03-02T08:00Z") / 60_000, door: "Tür", credential: "c1", result: "refused", reason: undefined },
    ]);
  });

  it("are refused with the line, the value and what was expected", async () => {
    for (const brackets of [20_000, 500_000]) {
      const deep = `${"[".repeat(brackets)}${"]".repeat(brackets)}`;
      expect(await refusal(deep)).toMatch(/Line 1, column any: (found .*expected an object of JSON|it is longer)/);
      expect(await refusal(`{"at":${deep},"door":"d"}`)).toMatch(/Line 1, column (at|any): /);
    }
    expect(await refusal(`${good}\n{"at":`)).toMatch(/Line 2, column any: found .*expected an object of JSON/);
    expect(await refusal(`${good}\n[]\n`)).toMatch(/Line 2.*expected an object/);
    expect(await refusal(`${good}\n${good.replace("granted", "opened")}\n`)).toMatch(/Line 2, column result.*found "opened"/);
    expect(await refusal(`${good}\n${"x".repeat(200_000)}`)).toMatch(/Line 2.*longer than/);
    expect(await refusal(Buffer.from([0x7b, 0xff, 0xfe, 0x7d]))).toMatch(/no UTF-8/);
  });
});

it("a row is passed by the quick check only where the schema passes it", () => {
  const text = fc.oneof(
    fc.string(),
    fc.constantFrom("granted", "refused", "", "x".repeat(64), "x".repeat(65), "x".repeat(128), "x".repeat(129)),
    fc.integer(),
    fc.constant(null),
  );
  const good = {
    at: fc.constant("2026-03-02T08:00:00Z"),
    door: fc.constantFrom("d", "x".repeat(128)),
    credential: fc.constant("c"),
    result: fc.constantFrom("granted", "refused"),
    reason: fc.constantFrom("", "no-grant", "x".repeat(64)),
  };
  const record = fc.oneof(
    fc.record({ at: text, door: text, credential: text, result: text, reason: text }, { requiredKeys: [] }),
    fc.record({ ...good, extra: text }, { requiredKeys: ["at", "door", "credential", "result"] }),
    fc.record({ ...good, door: text, reason: text }),
  );
  let passed = 0;
  fc.assert(
    fc.property(record, (row) => {
      const isValid = rowSchema.validate(row, { convert: false }).error === undefined;
      if (isPlainlyValid(row)) passed++;
      expect(isPlainlyValid(row)).toBe(isValid);
    }),
    { numRuns: 500 },
  );
  expect(passed).toBeGreaterThan(50);
});

const refused = (text: string): Promise<string> =>
  read(text).then(
    () => "accepted",
    (error: Error) => error.message,
  );

describe("events as CSV", () => {
  it("are read by RFC 4180: CRLF, quoted fields with commas, quotes and line ends, and no end of line at the end (sections 2.1–2.7, from memory)", async () => {
    const rows = await read(
      'at,door,credential,result,reason\r\n2026-03-02T08:00:00Z,"a, ""b""\r\nc",c1,granted,\r\n2026-03-02T08:01:00Z,d,c2,refused,no-grant',
    );
    expect(rows.map(({ door, result, reason }) => ({ door, result, reason }))).toEqual([
      { door: 'a, "b"\r\nc', result: "granted", reason: undefined },
      { door: "d", result: "refused", reason: "no-grant" },
    ]);
  });

  it("may begin with a byte order mark and have their columns in any order", async () => {
    const rows = await read("\ufeffresult,credential,door,at\ngranted,c1,d1,2026-03-02T08:00:30+01:00\n");
    expect(rows).toEqual([{ at: Date.parse("2026-03-02T07:00Z") / 60_000, door: "d1", credential: "c1", result: "granted", reason: undefined }]);
  });

  it("are refused with the line, the column, the value and what was expected", async () => {
    expect(await refused("at,door,credential,result\n2026-03-02,d,c,granted\n")).toMatch(/Line 2, column at: found "2026-03-02"; expected an instant/);
    expect(await refused("at,door,credential,result\n2026-03-02T08:00:00Z,d,c,opened\n")).toMatch(/Line 2, column result.*found "opened"/);
    expect(await refused("when,door,credential,result\nx,d,c,granted\n")).toMatch(/Line 1, column at: the header has no such column/);
    expect(await refused('at,door,credential,result\n2026-03-02T08:00:00Z,"d,c,granted\n')).toMatch(/no CSV that can be read/);
  });
});
