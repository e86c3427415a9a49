import { promisify } from "node:util";
import { gunzip, gzip } from "node:zlib";
import type { Sequelize } from "sequelize";
import type { UnitMemory } from "@/core/units/unit-memory";
import type { KnownUnit, UnitOfRegister, UnitState, UnitStore } from "@/operations/ports/units";
import { appendRecord, writeHead } from "./record-store";
import { execute, insert, select, selectFirst } from "./statements";

interface UnitRow {
  readonly id: string;
  readonly address: string;
  readonly is_sent_from_here: number;
  readonly erring: string;
  readonly state: string;
}

const columns = "id, address, is_sent_from_here, erring, state";
const asUnit = ({ id, address, is_sent_from_here: isSent, erring, state }: UnitRow): UnitOfRegister => ({
  id,
  address,
  isSentFromHere: isSent === 1,
  erring: erring === "more" ? "more" : "less",
  state: JSON.parse(state) as UnitState,
});

const [pack, unpack] = [promisify(gzip), promisify(gunzip)];

/** Units at the doors. `seal` keeps their tokens so that the database alone does not tell them. */
export function unitStore(
  sequelize: Sequelize,
  folder: string,
  sealer: { readonly seal: (secret: string) => string; readonly open: (sealed: string) => string | undefined },
): UnitStore {
  const byId = async (id: string): Promise<UnitOfRegister | undefined> => {
    const row = await selectFirst<UnitRow>(sequelize, `SELECT ${columns} FROM units WHERE id = :id`, { id });
    return row && asUnit(row);
  };
  /** Changes the state of one unit while nobody else does. */
  const change = (id: string, next: (state: UnitState) => UnitState, memory?: Buffer): Promise<void> =>
    sequelize.transaction(async (transaction) => {
      const row = await selectFirst<UnitRow>(sequelize, `SELECT ${columns} FROM units WHERE id = :id FOR UPDATE`, { id }, transaction);
      if (!row) return;
      const state = JSON.stringify(next(asUnit(row).state));
      await execute(
        sequelize,
        `UPDATE units SET state = :state${memory ? ", memory = :memory" : ""} WHERE id = :id`,
        { id, state, ...(memory && { memory }) },
        transaction,
      );
    });
  return {
    all: async () => (await select<UnitRow>(sequelize, `SELECT ${columns} FROM units ORDER BY id`)).map(asUnit),
    byId,
    keep: async (unit: KnownUnit, token, who, at) => {
      const before = await byId(unit.id);
      const { id, address, erring } = unit;
      await sequelize.transaction(async (transaction) => {
        const values = { id, address, erring, sent: unit.isSentFromHere ? 1 : 0, ...(token !== undefined && { token: sealer.seal(token) }) };
        if (before)
          await execute(
            sequelize,
            `UPDATE units SET address = :address, erring = :erring, is_sent_from_here = :sent${token === undefined ? "" : ", token = :token"} WHERE id = :id`,
            values,
            transaction,
          );
        else
          await insert(
            sequelize,
            "INSERT INTO units (id, address, token, is_sent_from_here, erring, state) VALUES (:id, :address, :token, :sent, :erring, '{}')",
            { token: "", ...values },
            transaction,
          );
        const said = before && { address: before.address, isSentFromHere: before.isSentFromHere, erring: before.erring };
        const after = { address, isSentFromHere: unit.isSentFromHere, erring };
        await appendRecord(sequelize, transaction, who, at, { what: "unit.kept", on: `unit ${id}`, ...(said && { before: said }), after });
      });
      await writeHead(sequelize, folder);
    },
    drop: async (id, who, at) => {
      const isDropped = await sequelize.transaction(async (transaction) => {
        const known = await selectFirst<{ address: string }>(sequelize, "SELECT address FROM units WHERE id = :id FOR UPDATE", { id }, transaction);
        if (!known) return false;
        await execute(sequelize, "DELETE FROM units WHERE id = :id", { id }, transaction);
        await appendRecord(sequelize, transaction, who, at, { what: "unit.dropped", on: `unit ${id}`, before: known });
        return true;
      });
      if (isDropped) await writeHead(sequelize, folder);
      return isDropped;
    },
    tokenOf: async (id) => {
      const row = await selectFirst<{ token: string }>(sequelize, "SELECT token FROM units WHERE id = :id", { id });
      return row === undefined || row.token === "" ? undefined : sealer.open(row.token);
    },
    tell: (id, parts) =>
      change(id, (state) => Object.fromEntries(Object.entries({ ...state, ...parts }).filter(([, value]) => value !== null && value !== undefined))),
    read: async (id, memory, sum, readAt) => change(id, (state) => ({ ...state, held: { sum, readAt } }), await pack(JSON.stringify(memory))),
    memoryOf: async (id) => {
      const row = await selectFirst<{ memory: Buffer | null }>(sequelize, "SELECT memory FROM units WHERE id = :id", { id });
      return row?.memory ? (JSON.parse((await unpack(row.memory)).toString("utf8")) as UnitMemory) : undefined;
    },
  };
}
