import { QueryTypes } from "sequelize";
import type { QueryInterface, Sequelize } from "sequelize";
import type { DatabaseSettings } from "./connection";
import { connect } from "./connection";
import * as register from "./migrations/0001-register";
import * as work from "./migrations/0002-work";
import * as completeness from "./migrations/0003-completeness";
import * as sources from "./migrations/0004-sources";
import * as drafts from "./migrations/0005-drafts";
import * as ownership from "./migrations/0006-ownership";
import * as unusedIndex from "./migrations/0007-unused-index";
import * as findingsBySubject from "./migrations/0008-findings-by-subject";
import * as ordersAsDocumentChanges from "./migrations/0009-orders-as-document-changes";
import * as datesWithEvents from "./migrations/0010-dates-with-events";
import * as triesNotStored from "./migrations/0011-tries-not-stored";
import * as roundsAsOpened from "./migrations/0013-rounds-as-opened";
import * as findingsAsFacts from "./migrations/0012-findings-as-facts";
import * as eventsInFull from "./migrations/0014-events-in-full";
import * as findingsOfEveryRule from "./migrations/0015-findings-of-every-rule";
import * as linesByCardholder from "./migrations/0016-lines-by-cardholder";
import * as certificationLoop from "./migrations/0017-certification-loop";
import * as ordersPlannedAnew from "./migrations/0018-orders-planned-anew";
import * as accountsInFull from "./migrations/0019-accounts-in-full";
import * as rulesThatWait from "./migrations/0020-rules-that-wait";
import * as lookUps from "./migrations/0021-look-ups";
import * as retentionAndSites from "./migrations/0022-retention-and-sites";
import * as orderMails from "./migrations/0023-order-mails";
import * as keptQuestions from "./migrations/0024-kept-questions";
import * as sourceProfiles from "./migrations/0025-source-profiles";
import * as longerReasons from "./migrations/0026-longer-reasons";
import * as feeds from "./migrations/0027-feeds";
import * as deliveries from "./migrations/0028-deliveries";
import * as houseRules from "./migrations/0029-house-rules";
import * as trials from "./migrations/0030-trials";
import * as plans from "./migrations/0031-plans";
import * as units from "./migrations/0032-units";
import { addEventMonths } from "./event-months";
import { select } from "./statements";

const migrations: readonly { readonly name: string; readonly up: (schema: QueryInterface) => Promise<void> }[] = [
  { name: "0001-register", up: register.up },
  { name: "0002-work", up: work.up },
  { name: "0003-completeness", up: completeness.up },
  { name: "0004-sources", up: sources.up },
  { name: "0005-drafts", up: drafts.up },
  { name: "0006-ownership", up: ownership.up },
  { name: "0007-unused-index", up: unusedIndex.up },
  { name: "0008-findings-by-subject", up: findingsBySubject.up },
  { name: "0009-orders-as-document-changes", up: ordersAsDocumentChanges.up },
  { name: "0010-dates-with-events", up: datesWithEvents.up },
  { name: "0011-tries-not-stored", up: triesNotStored.up },
  { name: "0012-findings-as-facts", up: findingsAsFacts.up },
  { name: "0013-rounds-as-opened", up: roundsAsOpened.up },
  { name: "0014-events-in-full", up: eventsInFull.up },
  { name: "0015-findings-of-every-rule", up: findingsOfEveryRule.up },
  { name: "0016-lines-by-cardholder", up: linesByCardholder.up },
  { name: "0017-certification-loop", up: certificationLoop.up },
  { name: "0018-orders-planned-anew", up: ordersPlannedAnew.up },
  { name: "0019-accounts-in-full", up: accountsInFull.up },
  { name: "0020-rules-that-wait", up: rulesThatWait.up },
  { name: "0021-look-ups", up: lookUps.up },
  { name: "0022-retention-and-sites", up: retentionAndSites.up },
  { name: "0023-order-mails", up: orderMails.up },
  { name: "0024-kept-questions", up: keptQuestions.up },
  { name: "0025-source-profiles", up: sourceProfiles.up },
  { name: "0026-longer-reasons", up: longerReasons.up },
  { name: "0027-feeds", up: feeds.up },
  { name: "0028-deliveries", up: deliveries.up },
  { name: "0029-house-rules", up: houseRules.up },
  { name: "0030-trials", up: trials.up },
  { name: "0031-plans", up: plans.up },
  { name: "0032-units", up: units.up },
];

const migrationTable = "migrations";
/** What the application may only read and add to: the record is for good. */
const appendOnly = new Set(["record_entries", "record_values_gone"]);

/** Brings the schema up to date, and gives the application's user its rights table by table. Runs as the owner. */
export async function migrate(owner: Sequelize, application: string): Promise<void> {
  // It takes long to load, and most commands of the command line do without it.
  const { SequelizeStorage, Umzug } = await import("umzug");
  const schema = owner.getQueryInterface();
  const umzug = new Umzug({
    migrations: migrations.map(({ name, up }) => ({ name, up: () => up(schema) })),
    storage: new SequelizeStorage({ sequelize: owner, tableName: migrationTable }),
    logger: undefined,
  });
  await umzug.up();
  await addEventMonths(owner, Date.now() / 1000);
  const tables = await select<{ name: string }>(owner, "SELECT table_name AS name FROM information_schema.tables WHERE table_schema = DATABASE()");
  for (const { name } of tables) {
    if (name === migrationTable) continue;
    const rights = appendOnly.has(name) ? "SELECT, INSERT" : "SELECT, INSERT, UPDATE, DELETE";
    for (const host of ["127.0.0.1", "localhost"]) await owner.query(`GRANT ${rights} ON \`${name}\` TO '${application}'@'${host}'`, { type: QueryTypes.RAW });
  }
}

/** The user of the application, as the starting scripts name it. */
const applicationUser = "nomade_app";

/** Brings the schema up to date as the owner whose settings these are. */
export async function migrateAsOwner(settings: DatabaseSettings): Promise<void> {
  const owner = connect(settings, 1);
  try {
    await migrate(owner, applicationUser);
  } finally {
    await owner.close();
  }
}
