import type { Sequelize } from "sequelize";
import { usualSettings } from "@/core/findings/settings";
import type { RuleSettings } from "@/core/findings/settings";
import type { KeptSettings, RuleSettingsStore } from "@/operations/ports/rule-settings";
import { appendRecord, writeHead } from "./record-store";
import { execute, insert, select, selectFirst } from "./statements";

interface SettingsRow {
  readonly id: number;
  readonly settings: string;
  readonly second_person_from: number;
}

/** From half of the greatest risk on, unless it is set otherwise. */
const usualSecondPersonFrom = 50;

const asKept = (row: SettingsRow | undefined): KeptSettings =>
  row
    ? { version: row.id, settings: JSON.parse(row.settings) as RuleSettings, secondPersonFrom: row.second_person_from }
    : { version: 0, settings: usualSettings, secondPersonFrom: usualSecondPersonFrom };

const latest = "SELECT id, settings, second_person_from FROM rule_settings ORDER BY id DESC LIMIT 1";

export const ruleSettingsStore = (sequelize: Sequelize, folder: string): RuleSettingsStore => ({
  current: async () => asKept(await selectFirst<SettingsRow>(sequelize, latest)),
  propose: async ({ settings, secondPersonFrom }, instead, who, at) => {
    const isProposed = await sequelize.transaction(async (transaction) => {
      await select(sequelize, "SELECT id FROM register_head WHERE id = 1 FOR UPDATE", {}, transaction);
      if (asKept(await selectFirst<SettingsRow>(sequelize, latest, {}, transaction)).version !== instead) return false;
      await execute(sequelize, "DELETE FROM rule_settings_waiting", {}, transaction);
      await insert(
        sequelize,
        "INSERT INTO rule_settings_waiting (id, settings, second_person_from, instead, made_by, made_at) VALUES (1, :settings, :secondPersonFrom, :instead, :by, :at)",
        { settings: JSON.stringify(settings), secondPersonFrom, instead, by: who.signIn, at },
        transaction,
      );
      await appendRecord(sequelize, transaction, who, at, { what: "rules.proposed", on: "rules", after: { settings, secondPersonFrom } });
      return true;
    });
    if (isProposed) await writeHead(sequelize, folder);
    return isProposed;
  },
  proposed: async () => {
    const row = await selectFirst<SettingsRow & { instead: number; made_by: string; made_at: string }>(
      sequelize,
      "SELECT id, settings, second_person_from, instead, made_by, made_at FROM rule_settings_waiting",
    );
    if (!row) return undefined;
    const { version: _, ...kept } = asKept(row);
    return { ...kept, instead: row.instead, madeBy: row.made_by, madeAt: row.made_at };
  },
  dropProposed: async (who, at) => {
    const isDropped = await sequelize.transaction(async (transaction) => {
      if ((await execute(sequelize, "DELETE FROM rule_settings_waiting", {}, transaction)) === 0) return false;
      await appendRecord(sequelize, transaction, who, at, { what: "rules.dropped", on: "rules" });
      return true;
    });
    if (isDropped) await writeHead(sequelize, folder);
    return isDropped;
  },
  put: async ({ settings, secondPersonFrom }, instead, who, at) => {
    const isKept = await sequelize.transaction(async (transaction) => {
      // Two who change them at once: the second waits here, and then finds others than it saw.
      await select(sequelize, "SELECT id FROM register_head WHERE id = 1 FOR UPDATE", {}, transaction);
      const { version, ...before } = asKept(await selectFirst<SettingsRow>(sequelize, latest, {}, transaction));
      if (version !== instead) return false;
      await insert(
        sequelize,
        "INSERT INTO rule_settings (settings, second_person_from, made_by, made_at) VALUES (:settings, :secondPersonFrom, :by, :at)",
        { settings: JSON.stringify(settings), secondPersonFrom, by: who.signIn, at },
        transaction,
      );
      await execute(sequelize, "DELETE FROM rule_settings_waiting", {}, transaction);
      await appendRecord(sequelize, transaction, who, at, { what: "rules.changed", on: "rules", before, after: { settings, secondPersonFrom } });
      return true;
    });
    if (isKept) await writeHead(sequelize, folder);
    return isKept;
  },
});
