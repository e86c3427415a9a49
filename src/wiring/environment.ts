import type { IntakeLimits } from "@/intake/formats/limits";
import { usualLimits as usualIntakeLimits } from "@/intake/formats/limits";
import type { AskingLimits } from "@/jobs/asking-pool";
import { usualLimits } from "@/jobs/asking-pool";
import path from "node:path";
import { usableAddress } from "@/operations/mail/usable-address";
import { authorityCertificate } from "@/standins/authority-certificate";
import type { TimeStampSettings } from "@/data/time-stamp-store";
import type { SignOnSettings } from "@/data/sign-on";
import type { MailSettings } from "@/data/mail-sender";
import type { DatabaseSettings } from "@/data/connection";

function required(name: string): string {
  const value = process.env[name];
  if (value === undefined || value === "") throw new Error(`${name} is not set; start Nomade with npm start or npm run nomade.`);
  return value;
}

export const databaseSettings = (): DatabaseSettings => ({
  port: Number(required("NOMADE_DB_PORT")),
  name: required("NOMADE_DB_NAME"),
  user: required("NOMADE_DB_USER"),
  password: required("NOMADE_DB_PASSWORD"),
});

/** A setting in whole numbers from 1 on; the usual one where it is not set. */
function wholeNumber(name: string, usual: number): number {
  const text = process.env[name];
  if (text === undefined || text === "") return usual;
  if (!/^[1-9]\d{0,6}$/.test(text)) throw new Error(`${name} is ${text}; expected a whole number from 1 on.`);
  return Number(text);
}

/** Deadlines: `NOMADE_QUESTION_SECONDS` for a question (10), `NOMADE_OPENING_SECONDS` for opening a register (180). */
export const askingLimits = (): AskingLimits => ({
  ...usualLimits,
  questionMs: wholeNumber("NOMADE_QUESTION_SECONDS", usualLimits.questionMs / 1000) * 1000,
  openingMs: wholeNumber("NOMADE_OPENING_SECONDS", usualLimits.openingMs / 1000) * 1000,
});

/** How long a piece of long work may take: `NOMADE_TASK_MINUTES` (60). */
export const taskMs = (): number => wholeNumber("NOMADE_TASK_MINUTES", 60) * 60_000;

/** The largest file that may be uploaded: `NOMADE_UPLOAD_MB` (2048). */
export const uploadMegabytes = (): number => wholeNumber("NOMADE_UPLOAD_MB", 2048);

/**
 * How much is read of what is brought: `NOMADE_UNPACKED_MB` (4096), `NOMADE_FILES` (1000), `NOMADE_WORKBOOK_MB` (256), `NOMADE_SHEETS` (200),
 * `NOMADE_COLUMNS` (4000), `NOMADE_CALENDAR_ENTRIES` (50,000), `NOMADE_CALENDAR_DAYS` (2,000,000).
 */
export const intakeLimits = (): IntakeLimits => ({
  ...usualIntakeLimits,
  unpackedBytes: wholeNumber("NOMADE_UNPACKED_MB", usualIntakeLimits.unpackedBytes / 1024 ** 2) * 1024 ** 2,
  members: wholeNumber("NOMADE_FILES", usualIntakeLimits.members),
  workbookBytes: wholeNumber("NOMADE_WORKBOOK_MB", usualIntakeLimits.workbookBytes / 1024 ** 2) * 1024 ** 2,
  sheets: wholeNumber("NOMADE_SHEETS", usualIntakeLimits.sheets),
  columns: wholeNumber("NOMADE_COLUMNS", usualIntakeLimits.columns),
  calendarEntries: wholeNumber("NOMADE_CALENDAR_ENTRIES", usualIntakeLimits.calendarEntries),
  calendarDays: wholeNumber("NOMADE_CALENDAR_DAYS", usualIntakeLimits.calendarDays),
});

/** The folder beside the database: uploads, heads of the record. */
export const dataFolder = (): string => required("NOMADE_DATA");

/** The folder below which each source that is watched has one of its own: `NOMADE_INBOX` (`inbox` in the data folder). */
export const inboxFolder = (): string => set("NOMADE_INBOX") ?? path.join(dataFolder(), "inbox");

const set = (name: string): string | undefined => {
  const value = process.env[name];
  return value === undefined || value === "" ? undefined : value;
};

/** Whether mails go to the stand-in server that ships, as `npm start` says where no other is set. */
export const standInMail = (): boolean => set("NOMADE_STANDIN_MAIL") === "yes";

/** A folder outside, to which heads of the record are written: `NOMADE_ANCHOR_FOLDER`; undefined where none is set. */
export const anchorFolder = (): string | undefined => set("NOMADE_ANCHOR_FOLDER");

/** An address to which heads of the record are mailed: `NOMADE_ANCHOR_MAIL`; undefined where none is set. */
export function anchorAddress(): string | undefined {
  const address = set("NOMADE_ANCHOR_MAIL");
  if (address !== undefined && usableAddress(address) === undefined) throw new Error(`NOMADE_ANCHOR_MAIL is ${address}; expected one mail address.`);
  return address;
}

/** Where the stand-in authority for time stamps keeps its keys and its certificate. */
export const standInStampFolder = (): string => path.join(dataFolder(), "standin-time-stamps");

/**
 * Time stamps over the record: `NOMADE_TSA_ADDRESS`, where an authority by RFC 3161 answers, and `NOMADE_TSA_CERTIFICATE`, a PEM file of whom to trust; without
 * one, the stand-in. They are kept in the folder outside, where one is set, or else beside the database.
 */
export function timeStampSettings(): TimeStampSettings {
  return {
    folder: path.join(anchorFolder() ?? dataFolder(), "record-stamps"),
    address: set("NOMADE_TSA_ADDRESS"),
    certificate: set("NOMADE_TSA_CERTIFICATE") ?? path.join(standInStampFolder(), authorityCertificate),
  };
}

const isOwnMachine = (host: string): boolean => /^(localhost|127\.\d+\.\d+\.\d+|\[?::1\]?)$/.test(host);

/** The address of this installation as browsers know it: `NOMADE_ADDRESS`. */
export const publicAddress = (): string => required("NOMADE_ADDRESS");

/** The same where it is set, or else the address of a host that was asked. */
export const addressAsked = (host: string): string => set("NOMADE_ADDRESS") ?? `http://${host}`;

/** The path that people come back to from the identity provider. */
export const signOnBack = "/sign-in/on/back";

/**
 * Single sign-on: `NOMADE_OIDC_ISSUER`, `NOMADE_OIDC_CLIENT_ID`, `NOMADE_OIDC_CLIENT_SECRET` if it has one, `NOMADE_OIDC_NAME`, what people call it, and
 * `NOMADE_OIDC_STAFF_NUMBER`, the claim with the staff number (staff_number); people come back to `NOMADE_ADDRESS`. Undefined where no issuer is set.
 */
export function signOnSettings(): SignOnSettings | undefined {
  const [issuer, clientId, address] = [set("NOMADE_OIDC_ISSUER"), set("NOMADE_OIDC_CLIENT_ID"), set("NOMADE_ADDRESS")];
  if (issuer === undefined) return undefined;
  if (clientId === undefined || !URL.canParse(issuer) || address === undefined || !URL.canParse(address))
    throw new Error(
      "Where NOMADE_OIDC_ISSUER is set it has to be an address, with NOMADE_OIDC_CLIENT_ID, and NOMADE_ADDRESS as the public address of this installation.",
    );
  return {
    name: set("NOMADE_OIDC_NAME") ?? new URL(issuer).hostname,
    issuer,
    clientId,
    clientSecret: set("NOMADE_OIDC_CLIENT_SECRET"),
    staffNumberClaim: set("NOMADE_OIDC_STAFF_NUMBER") ?? "staff_number",
    back: new URL(signOnBack, address).href,
    isLoopback: isOwnMachine(new URL(issuer).hostname),
  };
}

/** Where the stand-in personnel office keeps its people. */
export const standInPersonnelFolder = (): string => path.join(dataFolder(), "standin-personnel");

/** The page of the stand-in personnel office; undefined where it does not run. */
export const standInPersonnel = (): string | undefined => set("NOMADE_STANDIN_PERSONNEL");

/** Where the stand-in controllers keep what they were sent, and what happened. */
export const standInControllerFolder = (): string => path.join(dataFolder(), "standin-controllers");

/** Where the stand-in controllers answer, and their token; undefined where they do not run. */
export function standInControllers(): { readonly address: string; readonly token: string } | undefined {
  const [address, token] = [set("NOMADE_STANDIN_CONTROLLERS"), set("NOMADE_STANDIN_CONTROLLERS_TOKEN")];
  return address === undefined || token === undefined ? undefined : { address, token };
}

/** Where the stand-in server keeps what it took. */
export const standInMailFolder = (): string => path.join(dataFolder(), "standin-mail");

/**
 * The mail server: `NOMADE_SMTP_HOST`, `NOMADE_SMTP_PORT` (587), `NOMADE_SMTP_USER`, `NOMADE_SMTP_PASSWORD`, `NOMADE_MAIL_FROM`, and `NOMADE_ADDRESS`, the
 * public address to which links lead. Undefined where no server is set: then nothing is sent.
 */
export function mailSettings(): MailSettings | undefined {
  const [host, address] = [set("NOMADE_SMTP_HOST"), set("NOMADE_ADDRESS")];
  if (host === undefined) return undefined;
  if (address === undefined || !URL.canParse(address))
    throw new Error("NOMADE_ADDRESS has to be the public address of this installation, such as https://nomade.example, where NOMADE_SMTP_HOST is set.");
  return {
    host,
    port: wholeNumber("NOMADE_SMTP_PORT", 587),
    user: set("NOMADE_SMTP_USER"),
    password: set("NOMADE_SMTP_PASSWORD"),
    from: set("NOMADE_MAIL_FROM") ?? "Nomade <nomade@localhost>",
    address,
    isLoopback: isOwnMachine(host),
  };
}
