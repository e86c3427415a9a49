import type { Cardholder, Credential, FacilityDocument } from "@/core/facility/document";
import { isSummerGrant, summerGrants } from "./summer-review";

/** Two earlier exports, a quarter apart. */
export const earlierExports = ["2026-06-15T05:10:00Z", "2026-09-15T05:10:00Z"] as const;

/** Whether something was written down as later than an export. */
const isLater = (moment: string | undefined, asOf: string): boolean => moment !== undefined && moment > asOf;

/** What has changed since is as it was: statuses that came later, cards that were not there yet. */
function cardholderAt({ statusSince, ...cardholder }: Cardholder, asOf: string): Cardholder {
  if (isLater(statusSince, asOf)) return { ...cardholder, status: "active" };
  return { ...cardholder, ...(statusSince !== undefined && { statusSince }) };
}

function credentialAt({ statusSince, ...credential }: Credential, asOf: string): Credential {
  if (isLater(statusSince, asOf)) return { ...credential, status: "active" };
  return { ...credential, ...(statusSince !== undefined && { statusSince }) };
}

/** Ids of people by their names. */
const idOf = ({ cardholders = [] }: FacilityDocument, name: string): string | undefined => cardholders.find((one) => one.name === name)?.id;

/**
 * The institute as it was at an earlier export: the same people and doors, without what came later, and with what has been put right since. In June the
 * curator who moved was still with the herbarium; what should not be then is partly gone, and some of it came back.
 */
export function instituteAt(present: FacilityDocument, asOf: (typeof earlierExports)[number]): FacilityDocument {
  const [june] = earlierExports;
  const isJune = asOf === june;
  const moved = idOf(present, "Ilse Thornwold");
  const collector = idOf(present, "Fenna Applestad");
  const late = idOf(present, "Niels Brackenholm");
  const { cardholders = [], credentials = [], grants = [], levels = [], calendars = [] } = present;
  return {
    ...present,
    asOf,
    // Cleaning was let in all day, until an owner asked in September for less; the stocktaking of the vault is newly entered.
    levels: levels.map((level) =>
      level.id === "l-labs-clean" ? { ...level, rows: (level.rows ?? []).map((row) => ({ ...row, schedule: "laboratory" })) } : level,
    ),
    calendars: calendars.map((calendar) => ({ ...calendar, days: (calendar.days ?? []).filter(({ name }) => name !== "Vault stocktaking") })),
    cardholders: cardholders.map((cardholder) => {
      // His department had told nobody that he was gone.
      const then = cardholder.id === late ? { ...cardholder, status: "active" as const, statusSince: "2024-04-01T08:00:00Z" } : cardholderAt(cardholder, asOf);
      return isJune && cardholder.id === moved ? { ...then, department: "d-herbarium" } : then;
    }),
    credentials: credentials
      .filter(({ issuedAt }) => !isLater(issuedAt, asOf))
      // Her spare ones were taken back in summer, and handed out again.
      .map((credential) =>
        !isJune && credential.cardholder === collector && credential.kind !== "card" ? { ...credential, status: "returned" as const } : credential,
      )
      .map((credential) => credentialAt(credential, asOf)),
    // Withdrawals of the review of summer took effect in part, and some of it came back. In June the demonstration of the new reader was still to
    // come, and a key to the data room was on loan.
    grants: [
      ...grants.filter((grant) => !(isJune && grant.id.startsWith("gs-demonstration")) && !isSummerGrant(grant)),
      ...summerGrants(present, isJune ? 0 : 1),
      ...(isJune && collector !== undefined
        ? [{ id: "gx-june", to: { cardholder: collector }, open: { door: "g-data" }, schedule: "office", note: "Until the move of the servers" }]
        : []),
    ],
  };
}
