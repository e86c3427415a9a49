import { Readable } from "node:stream";
import { describe, expect, it } from "@jest/globals";
import type { ToldEvent } from "@/core/events/event-book";
import type { EventRowError } from "./read-events";
import { storableEvents } from "./read-events";

/** The first row that cannot be read ends it. */
const thrown = (error: EventRowError): never => {
  throw error;
};

async function read(text: string): Promise<ToldEvent[]> {
  const rows: ToldEvent[] = [];
  for await (const row of storableEvents(Readable.from([Buffer.from(text)]), "csv", thrown)) rows.push(row);
  return rows;
}
describe("events as JSON Lines", () => {
  const lines = async (text: string | Buffer): Promise<ToldEvent[]> => {
    const rows: ToldEvent[] = [];
    // In small pieces, so that lines and characters are cut.
    for await (const row of storableEvents(
      Readable.from(
        Buffer.from(text as string)
          .toString("latin1")
          .match(/[\s\S]{1,7}/g)
          ?.map((piece) => Buffer.from(piece, "latin1")) ?? [],
      ),
      "jsonl",
      thrown,
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
      { second: Date.parse("2026-03-02T08:00Z") / 1000, door: "Tür", credential: "c1", granted: true },
      { second: Date.parse("2026-03-02T08:00Z") / 1000, door: "Tür", credential: "c1", granted: false },
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
    expect(rows.map(({ door, granted, reason }) => ({ door, granted, reason }))).toEqual([
      { door: 'a, "b"\r\nc', granted: true, reason: undefined },
      { door: "d", granted: false, reason: "no-grant" },
    ]);
  });

  it("may begin with a byte order mark and have their columns in any order", async () => {
    const rows = await read("\ufeffresult,number,facilityCode,door,at,id\ngranted,4711,87,d1,2026-03-02T08:00:30+01:00,e1\n");
    expect(rows).toEqual([{ second: Date.parse("2026-03-02T07:00:30Z") / 1000, door: "d1", number: "4711", facilityCode: "87", granted: true, id: "e1" }]);
  });

  it("are refused with the line, the column, the value and what was expected", async () => {
    expect(await refused("at,door,credential,result\n2026-03-02,d,c,granted\n")).toMatch(/Line 2, column at: found "2026-03-02"; expected an instant/);
    expect(await refused("at,door,credential,result\n2026-03-02T08:00:00Z,d,c,opened\n")).toMatch(/Line 2, column result.*found "opened"/);
    expect(await refused(`at,door,credential,result\n2026-03-02T08:00:00Z,${"d".repeat(129)},c,granted\n`)).toMatch(
      /Line 2, column door.*129 characters; expected at most 128/,
    );
    expect(await refused("at,door,credential,result\n2026-03-02T08:00:00Z,d,,granted\n")).toMatch(
      /Line 2, column credential: neither a credential nor a number/,
    );
    expect(await refused("when,door,credential,result\nx,d,c,granted\n")).toMatch(/Line 1, column at: the header has no such column/);
    expect(await refused('at,door,credential,result\n2026-03-02T08:00:00Z,"d,c,granted\n')).toMatch(/no CSV that can be read/);
  });
});
