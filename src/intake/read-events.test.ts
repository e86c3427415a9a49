import { Readable } from "node:stream";
import { describe, expect, it } from "@jest/globals";
import type { ReadEvent } from "./read-events";
import { readEvents } from "./read-events";

async function read(text: string): Promise<ReadEvent[]> {
  const rows: ReadEvent[] = [];
  for await (const row of readEvents(Readable.from([Buffer.from(text)]))) rows.push(row);
  return rows;
}
const refused = (text: string): Promise<string> => read(text).then(() => "accepted", (error: Error) => error.message);

describe("events as CSV", () => {
  it("are read by RFC 4180: CRLF, quoted fields with commas, quotes and line ends, and no end of line at the end (sections 2.1–2.7, from memory)", async () => {
    const rows = await read('at,door,credential,result,reason\r\n2026-03-02T08:00:00Z,"a, ""b""\r\nc",c1,granted,\r\n2026-03-02T08:01:00Z,d,c2,refused,no-grant');
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
