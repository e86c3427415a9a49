import { readFile } from "node:fs/promises";
import { parseArgs } from "node:util";
import type { Role } from "@/operations/ports/accounts";
import { addDemoAccounts, addDemoHouseRules, addDemoPlans, addDemoRound, addDemoTrials, demoRounds, demoSignIns, linkFor, sitesRefusal } from "@/wiring/command-line";
import { printLine, Refusal, UsageError } from "./output";
import { commandLine, withServices } from "./with-database";

const roles: readonly Role[] = ["administrator", "reviewer", "manager", "owner", "auditor"];

async function addAccount(args: readonly string[]): Promise<number> {
  const { values } = parseArgs({
    args: [...args],
    options: {
      "sign-in": { type: "string" },
      name: { type: "string" },
      role: { type: "string" },
      cardholder: { type: "string" },
      email: { type: "string" },
      site: { type: "string", multiple: true },
    },
  });
  const role = roles.find((one) => one === values.role);
  const { "sign-in": signIn, name, cardholder, email, site: sites } = values;
  if (signIn === undefined || name === undefined || !role) throw new UsageError(`account add needs --sign-in, --name and --role (${roles.join(", ")}).`);
  const password = process.env.NOMADE_PASSWORD ?? "";
  if (password.length < 12) throw new UsageError("Set NOMADE_PASSWORD to a password of at least 12 characters.");
  return withServices(async (services) => {
    const why = await sitesRefusal(services, role, sites);
    if (why)
      throw new Refusal(
        why === "no-site" ? `The register does not have all of the sites ${(sites ?? []).join(", ")}.` : "Only reviewers and auditors can be limited to sites.",
      );
    const passwordHash = await services.passwords.hash(password);
    await services.accounts.put({ signIn, name, role, cardholder, passwordHash, email, ...(sites && { sites }) }, commandLine, services.now());
    return 0;
  });
}

/**
 * `nomade account`: adds accounts; `demo` adds those of the demo, `demo --list` shows them, `demo --house-rules` writes its house rules down,
 * `demo --trials` its trials, `demo --plans FILE` hangs its plans up, `demo --round NAME` has them certify as they did in the demo's rounds.
 */
export async function account(args: readonly string[]): Promise<number> {
  const [what, ...rest] = args;
  if (what === "add") return addAccount(rest);
  if (what === "list") return listAccounts(rest);
  if (what === "end" || what === "reset") return endOrReset(what, rest);
  if (what !== "demo") throw new UsageError("account takes add, list, end, reset, or demo.");
  return withServices(async (services) => {
    if (rest[0] === "--list") for (const line of await demoSignIns(services)) process.stdout.write(`${line}\n`);
    else if (rest[0] === "--trials") await addDemoTrials(services);
    else if (rest[0] === "--plans" && rest[1] !== undefined)
      await addDemoPlans(services, JSON.parse(await readFile(rest[1], "utf8")) as Parameters<typeof addDemoPlans>[1]);
    else if (rest[0] === "--house-rules") await addDemoHouseRules(services);
    else if (rest[0] === "--round") {
      const round = demoRounds.find((one) => one === rest[1]);
      if (!round) throw new UsageError(`account demo --round takes one of ${demoRounds.join(", ")}.`);
      await addDemoRound(services, round);
    } else await addDemoAccounts(services);
    return 0;
  });
}

/** `nomade account list`: every account with its state. */
async function listAccounts(args: readonly string[]): Promise<number> {
  if (args.length > 0) throw new UsageError("account list takes no arguments.");
  return withServices(async (services) => {
    for (const account of await services.accounts.details()) await printLine(account);
    return 0;
  });
}

/**
 * `nomade account end` and `reset`: ends an account, or takes its password and second factor away; its sessions end at once. The last administrator
 * may go, too: `account add` makes another.
 */
async function endOrReset(what: "end" | "reset", args: readonly string[]): Promise<number> {
  const { values } = parseArgs({ args: [...args], options: { "sign-in": { type: "string" } } });
  const signIn = values["sign-in"];
  if (signIn === undefined) throw new UsageError(`account ${what} needs --sign-in.`);
  return withServices(async (services) => {
    const found = await services.accounts.bySignIn(signIn);
    if (!found) throw new Refusal(`There is no account ${signIn} that is not ended.`);
    const { accounts } = services;
    const at = services.now();
    await (what === "end" ? accounts.end(found.id, true, commandLine, at) : accounts.reset(found.id, commandLine, at));
    await printLine({
      signIn,
      [what === "end" ? "ended" : "reset"]: at,
      ...(what === "reset" && { link: `${services.mailSender.address ?? ""}${await linkFor(services, found.id)}` }),
    });
    return 0;
  });
}
