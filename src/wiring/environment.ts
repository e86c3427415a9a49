import type { AskingLimits } from "@/jobs/asking-pool";
import { usualLimits } from "@/jobs/asking-pool";
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

/** The folder beside the database: uploads, heads of the record. */
export const dataFolder = (): string => required("NOMADE_DATA");
