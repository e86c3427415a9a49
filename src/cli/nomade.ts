import { exitRefused, exitWrongUsage, Refusal, say, UsageError } from "./output";

const usage = `npm run --silent nomade -- COMMAND …

  ask FACILITY.json --credential ID --door ID --at INSTANT [--lockdown] [--as-if-live]
  ask FACILITY.json --batch QUESTIONS.jsonl
      whether a credential opens a door, why, and by which paths
  resolve FACILITY.json --from INSTANT --to INSTANT [--by credential|cardholder|free]
          [--lockdown] [--as-if-live] [--credential ID] [--cardholder ID] [--door ID]
      when each door opens, one line for each pair that opens at all
  check FACILITY.json
      errors of a document, or what is odd in it
  compare BEFORE.json AFTER.json --from INSTANT --to INSTANT [--lockdown] [--as-if-live]
      what changed in access: doors gained, lost, with other hours, and what brought it about
  withdraw FACILITY.json (--cardholder ID | --credential ID) (--door ID [--door ID]… | --area ID) [--keep-schedule ID] [--keep-until DATE]
           [--without-blocks] [--horizon-days N] [--out AFTER.json]
  withdraw FACILITY.json --return CREDENTIAL [--horizon-days N] [--out AFTER.json]
      the changes by which doors shut for somebody, or a card is returned, and all that they do to access; --out writes the changed document
  intake FILE… [--source NAME] [--profile PROFILE.json] [--as-of INSTANT] [--dry-run] [--leave-out N]
      takes in what a file or folder is found to be: facility documents, tables (.csv, .tsv, .txt, .gz, .zip), workbooks (.xlsx, .ods, .xls), calendars (.ics),
      people of a directory (.ldif) or a SCIM list, events (.csv, .jsonl); other systems’ tables by a source profile (docs/profiles.md), the one that is given or the
      one that is kept with the source; where rows are refused, only if just N of them may be left out
  profile FILE [--source NAME] [--profile PROFILE.json] [--out PROFILE.json]
      how a file seems to be written, as a source profile, or what a profile makes of it; what is left open is said, with exit status 1
  snapshots [--take-back ID --reason TEXT]
      every snapshot with its hash; with --take-back the latest is taken back: what stood before it becomes a new snapshot, and the record says why
  events [--take-back ID]
      every file of events that was taken in; with --take-back one of them is taken back, with all that was counted from it
  rules [--keep RULES.json]
      how the rules judge snapshots here; with --keep they judge as the file says from then on
  export --format document|csv|xlsx --out PATH [--snapshot ID]
  export --format ics --calendar ID --out PATH [--snapshot ID]
      writes the frozen document of a snapshot, a ZIP of CSV tables that reads back to it, or one of its calendars
  findings FACILITY.json [--events FILE]… [--settings RULES.json] [--earlier FACILITY.json]… [--decisions FILE] [--rule KEY]… [--risk]
  findings [--snapshot ID] [--rule KEY]… [--risk]
      what should not be, with its proof: of a document, or as it was found in a snapshot
  round export ID --out PACK.zip [--seed TEXT]
      the evidence pack of a round: document, lines, decisions, signatures, orders, record, report, and how to verify each
  verify [PACK.zip | --head NUMBER:HASH …]
      compares everything that a signature rests on with what it should be; of an evidence pack all that can be told from it alone
  backup --out PATH
      writes everything that Nomade holds to one file, all of one moment
  restore PATH [--replace]
      puts a backup in the place of the register; a broken one changes nothing
  pin-key --out FILE
  pin-key --restore FILE [--replace]
      saves the key of the PINs’ tags, which is in no backup, or puts a saved one in place
  account add --sign-in NAME --name "FULL NAME" --role ROLE [--cardholder ID] [--email ADDRESS] [--site ID]…
      adds an account, of a reviewer or an auditor limited to sites if any are named; the password is read from NOMADE_PASSWORD
  account list
  account end --sign-in NAME
  account reset --sign-in NAME
      every account with its state; ends one; takes its password and second factor away and prints a link that signs in once

JSON Lines on standard output, messages on standard error. Exit status: 0; 1 refused; 2 wrong usage.`;

/** Each command with what it needs alone: most of them need no database, and are there in half of the time without what speaks to one. */
const commands: Readonly<Record<string, (args: readonly string[]) => Promise<number>>> = {
  ask: async (args) => (await import("./ask")).ask(args),
  resolve: async (args) => (await import("./resolve")).resolve(args),
  check: async (args) => (await import("./check")).check(args),
  compare: async (args) => (await import("./compare")).compare(args),
  withdraw: async (args) => (await import("./withdraw")).withdraw(args),
  findings: async (args) => (await import("./findings")).findings(args),
  events: async (args) => (await import("./events")).events(args),
  rules: async (args) => (await import("./rules")).rules(args),
  intake: async (args) => (await import("./intake")).intake(args),
  profile: async (args) => (await import("./profile")).profile(args),
  snapshots: async (args) => (await import("./snapshots")).snapshots(args),
  export: async (args) => (await import("./snapshots")).exportSnapshot(args),
  round: async (args) => (await import("./evidence")).round(args),
  verify: async (args) => (await import("./evidence")).verify(args),
  account: async (args) => (await import("./account")).account(args),
  backup: async (args) => (await import("./backup")).backup(args),
  restore: async (args) => (await import("./backup")).restore(args),
  "pin-key": async (args) => (await import("./backup")).pinKey(args),
  migrate: async () => (await import("./migrate")).migrateDatabase(),
};

/** What the connector says where the server has ended, or was killed. */
const databaseGone = /ECONNRESET|ECONNREFUSED|EPIPE|connection (is )?closed|socket has unexpectedly been closed|Server shutdown/i;

/** What a thrown value means to who called the command. */
function statusOf(error: unknown): number {
  if (error instanceof Refusal) {
    say(error.message);
    return exitRefused;
  }
  const code = (error as { code?: string }).code ?? "";
  if (error instanceof UsageError || code.startsWith("ERR_PARSE_ARGS")) {
    say((error as Error).message);
    return exitWrongUsage;
  }
  if (databaseGone.test((error as Error).message)) {
    say(
      "The database went away in the middle of the work; what was not finished is not stored. Run the command again; nomade verify tells whether the record is whole.",
    );
    return exitRefused;
  }
  say(`Something went wrong that should not: ${(error as Error).message}`);
  if (process.env.NOMADE_DEBUG) console.error(error);
  return exitRefused;
}

// A reader that has seen enough (such as head) closes the pipe; that is no fault.
process.stdout.on("error", (error: NodeJS.ErrnoException) => process.exit(error.code === "EPIPE" ? 0 : exitRefused));

const [name, ...args] = process.argv.slice(2);
if (name === "help" || name === "--help") {
  process.stdout.write(`${usage}\n`);
} else {
  const command = name !== undefined && Object.hasOwn(commands, name) ? commands[name] : undefined;
  if (command) process.exitCode = await command(args).catch(statusOf);
  else {
    say(name === undefined ? usage : `There is no command ${name}.\n\n${usage}`);
    process.exitCode = exitWrongUsage;
  }
}
