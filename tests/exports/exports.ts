import { utils, write } from "@e965/xlsx";
import iconv from "iconv-lite";

/** A file as some other system writes it, of made-up people. */
export interface Export {
  readonly name: string;
  readonly bytes: Buffer;
}

/** One row a card, with the group memberships in one cell, times on a 24-hour clock and a far year for "no end". */
export const cardRows: Export = {
  name: "badge-holders 2026-11-28.csv",
  bytes: Buffer.from(
    [
      "Badge holders,,,,,,,,",
      "Site: Hazel Orchard,,,,,,,,",
      "Employee ID,Last Name,First Name,Department,Card Number,Card Status,Access Groups,Valid From,Expires",
      '1001,Almondfeld,Iris,Press House,012-04711,Active,"Day crew; Key holders",2024-03-01,2099-12-31',
      '1001,Almondfeld,Iris,Press House,012-04712,Lost,"Day crew; Key holders",2024-03-01,2099-12-31',
      "1002,Mosstrand,Nora,Cellar,012-04713,Active,Day crew,2025-01-15,2026-12-31",
      "1003,Quillmere,Tam,Cellar,012-04714,Inactive,,2025-01-15,2026-06-30",
      "1004,Wickholm,Ada,Press House,,,Day crew,,",
    ].join("\r\n"),
  ),
};

/** People and groups as a matrix of crosses. */
export const groupMatrix: Export = {
  name: "who is in what.csv",
  bytes: Buffer.from(
    [
      "Person,Staff No,Day crew,Night crew,Key holders",
      "Iris Almondfeld,1001,x,,x",
      "Nora Mosstrand,1002,x,-,",
      "Tam Quillmere,1003,,X,",
      "Ada Wickholm,1004,,,",
    ].join("\n"),
  ),
};

/** Access levels and doors as a matrix of the names of schedules. */
export const levelMatrix: Export = {
  name: "access levels.csv",
  bytes: Buffer.from(
    [
      "Access level,Main gate,Cellar door,Press hall",
      "Day access,Day hours,,Day hours",
      "Night access,Night hours,Night hours,-",
      "All access,Day hours,Night hours,Day hours",
    ].join("\n"),
  ),
};

/** Schedules with a column for each weekday on a 12-hour clock, and a validity that ends in a far year, day first. */
export const weekdayHours: Export = {
  name: "time schedules.csv",
  bytes: Buffer.from(
    [
      "Schedule,Monday,Tuesday,Wednesday,Thursday,Friday,Saturday,Sunday,Start date,End date",
      "Day hours,07:00 AM - 06:00 PM,07:00 AM - 06:00 PM,07:00 AM - 06:00 PM,07:00 AM - 06:00 PM,07:00 AM - 04:30 PM,,,25/03/2024,31/12/2199",
      "Night hours,10:00 PM - 06:00 AM,10:00 PM - 06:00 AM,10:00 PM - 06:00 AM,10:00 PM - 06:00 AM,10:00 PM - 06:00 AM,closed,closed,25/03/2024,31/12/2199",
      'Split hours,"08:00 AM - 12:00 PM, 01:00 PM - 05:00 PM",,,,,,,25/03/2024,30/09/2027',
    ].join("\r\n"),
  ),
};

/** German headings, semicolons, Windows-1252, yes and no in German, numbers in hexadecimal digits. */
export const germanCards: Export = {
  name: "Kartenliste.txt",
  bytes: iconv.encode(
    [
      "Personalnummer;Name;Abteilung;Ausweisnummer;Aktiv;Gültig ab;Gültig bis",
      "1001;Almondfeld, Iris;Kelterei;0x12A7;ja;01.03.2024;31.12.2026",
      "1002;Mooßtränd, Nora;Kellerei;0x12A8;ja;15.01.2025;unbefristet",
      "1003;Quillmere, Tam;Kellerei;00FF;nein;15.01.2025;30.06.2026",
      "1005;Grünwald, Jörg;Kelterei;BEEF;ja;;",
    ].join("\r\n"),
    "windows-1252",
  ),
};

/** A workbook of five sheets, each with lines of titles above its header. */
export function workbookExport(): Export {
  const book = utils.book_new();
  const sheet = (name: string, rows: readonly (readonly unknown[])[]): void => {
    const titled = [[`${name} of Hazel Orchard`], ["made on 28 November 2026"], [], ...rows];
    utils.book_append_sheet(book, utils.aoa_to_sheet(titled as unknown[][], { UTC: true }), name);
  };
  sheet("People", [
    ["Person ID", "Full name", "Type", "Status", "E-mail"],
    [1001, "Iris Almondfeld", "Employee", "Active", "iris@orchard.example"],
    [1002, "Nora Mosstrand", "Employee", "Active", "nora@orchard.example"],
    [1003, "Tam Quillmere", "Contractor", "Terminated", ""],
  ]);
  sheet("Cards", [
    ["Card number", "Employee", "Status", "Expiry date"],
    [4711, 1001, "Issued", new Date("2027-05-01T00:00:00Z")],
    [4712, 1002, "Issued", new Date("2027-05-31T00:00:00Z")],
    [4713, 1003, "Destroyed", new Date("2026-01-31T00:00:00Z")],
  ]);
  sheet("Groups", [["Group"], ["Day crew"], ["Night crew"]]);
  sheet("Group members", [
    ["Group", "Employee"],
    ["Day crew", 1001],
    ["Day crew", 1002],
    ["Night crew", 1003],
  ]);
  sheet("Doors", [
    ["Door", "Type"],
    ["Main gate", "Gate"],
    ["Cellar door", "Door"],
    ["Press hall", "Door"],
  ]);
  return { name: "access system.xlsx", bytes: write(book, { type: "buffer", bookType: "xlsx" }) as Buffer };
}
