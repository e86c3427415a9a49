import { gunzipSync, gzipSync } from "node:zlib";
import type { Sequelize, Transaction } from "sequelize";
import type { Arrival, ArrivedBy, Delivery, DeliveryStore, NewDelivery, WaitReason } from "@/operations/ports/deliveries";
import { execute, insert, select, selectFirst } from "./statements";

const longestName = 255;

/** Notes what a source sent, and whom it named, with the snapshot that the register then stands at. */
export async function noteDelivery(
  sequelize: Sequelize,
  transaction: Transaction | undefined,
  { source, name, asOf, people }: NewDelivery,
  at: string,
  snapshot: number | undefined,
): Promise<void> {
  if (source === "") return;
  await insert(
    sequelize,
    "INSERT INTO deliveries (source, name, at, as_of) VALUES (:source, :name, :at, :asOf)",
    { source, name: name.slice(0, longestName), at, asOf: asOf ?? null },
    transaction,
  );
  if (people && snapshot !== undefined)
    await insert(
      sequelize,
      "INSERT INTO source_people (source, snapshot, people) VALUES (:source, :snapshot, :people) ON DUPLICATE KEY UPDATE people = VALUES(people)",
      { source, snapshot, people: gzipSync(JSON.stringify(people)) },
      transaction,
    );
}

interface ArrivalRow {
  readonly token: string;
  readonly source: string;
  readonly name: string;
  readonly arrived_by: ArrivedBy;
  readonly at: string;
  readonly as_of: string | null;
  readonly why: string;
}

const arrivalOf = ({ token, source, name, arrived_by, at, as_of, why }: ArrivalRow): Arrival => ({
  token,
  source,
  name,
  by: arrived_by,
  at,
  asOf: as_of ?? undefined,
  why: JSON.parse(why) as WaitReason[],
});

export const deliveryStore = (sequelize: Sequelize): DeliveryStore => ({
  note: (delivery) => noteDelivery(sequelize, undefined, delivery, delivery.at, undefined),
  last: async (ofEach) =>
    (
      await select<{ source: string; name: string; at: string; as_of: string | null }>(
        sequelize,
        `SELECT source, name, at, as_of FROM (SELECT *, ROW_NUMBER() OVER (PARTITION BY source ORDER BY id DESC) AS place FROM deliveries) AS numbered
         WHERE place <= :ofEach ORDER BY source, place`,
        { ofEach },
      )
    ).map(({ source, name, at, as_of }): Delivery => ({ source, name, at, asOf: as_of ?? undefined })),
  peopleSources: async (snapshot) => {
    const rows = await select<{ source: string; people: Buffer }>(
      sequelize,
      `SELECT source, people FROM source_people JOIN
       (SELECT source, MAX(snapshot) AS snapshot FROM source_people ${snapshot === undefined ? "" : "WHERE snapshot <= :snapshot"} GROUP BY source) AS latest
       USING (source, snapshot) ORDER BY source`,
      { snapshot: snapshot ?? 0 },
    );
    return rows.map(({ source, people }) => ({ source, people: new Set(JSON.parse(gunzipSync(people).toString("utf8")) as string[]) }));
  },
  arrivals: async () => (await select<ArrivalRow>(sequelize, "SELECT * FROM arrivals ORDER BY at DESC, token")).map(arrivalOf),
  addArrival: async ({ token, source, name, by, at, asOf, why }) => {
    await insert(
      sequelize,
      "INSERT INTO arrivals (token, source, name, arrived_by, at, as_of, why) VALUES (:token, :source, :name, :by, :at, :asOf, :why)",
      { token, source, name: name.slice(0, longestName), by, at, asOf: asOf ?? null, why: JSON.stringify(why) },
    );
  },
  settle: async (token) => {
    const row = await selectFirst<ArrivalRow>(sequelize, "SELECT * FROM arrivals WHERE token = :token", { token });
    if (!row || (await execute(sequelize, "DELETE FROM arrivals WHERE token = :token", { token })) === 0) return undefined;
    return arrivalOf(row);
  },
});
