import { readFileSync, writeFileSync } from "node:fs";
import { parseArgs } from "node:util";
import type { FacilityDocument } from "@/core/facility/document";
import { withAllLists } from "@/core/facility/facility";
import { required } from "@/core/kernel/invariant";
import { registerTables } from "@/data/register-tables";
import { bundleZip } from "@/intake/formats/tables/bundle-zip";
import { benchConnection } from "./connection";

/** What an intake of CSV tables is held against: the same rows put into empty tables of the same shape by multi-row inserts, nothing else. */
const { values } = parseArgs({ options: { file: { type: "string" }, zip: { type: "string" } } });
const text = readFileSync(required(values.file, "--file names a document"), "utf8");

const rowsAtOnce = 2000;

async function bareInserts(): Promise<{ ms: number; rows: number }> {
  const facility = withAllLists(JSON.parse(text) as FacilityDocument);
  const connection = await benchConnection();
  const tables = registerTables.map(({ name, columns, rows }) => ({
    name,
    columns: Object.keys(columns),
    rows: [...rows(facility)].map((row) => Object.values(row)),
  }));
  for (const { name } of tables) {
    await connection.query(`DROP TABLE IF EXISTS bare_${name}`);
    await connection.query(`CREATE TABLE bare_${name} LIKE ${name}`);
    await connection.query(`ALTER TABLE bare_${name} MODIFY row_hash VARCHAR(64) NULL, MODIFY since_snapshot INT NULL`);
  }
  let count = 0;
  const began = performance.now();
  await connection.beginTransaction();
  for (const { name, columns, rows } of tables)
    for (let i = 0; i < rows.length; i += rowsAtOnce) {
      const piece = rows.slice(i, i + rowsAtOnce);
      count += piece.length;
      const marks = `(${columns.map(() => "?").join(",")})`;
      await connection.query(
        `INSERT INTO bare_${name} (${columns.map((column) => `\`${column}\``).join(",")}) VALUES ${piece.map(() => marks).join(",")}`,
        piece.flat(),
      );
    }
  await connection.commit();
  const ms = performance.now() - began;
  for (const { name } of tables) await connection.query(`DROP TABLE bare_${name}`);
  await connection.end();
  return { ms, rows: count };
}

if (values.zip !== undefined) writeFileSync(values.zip, bundleZip(text, "2026-01-01T00:00:00Z"));
else process.stdout.write(`${JSON.stringify(await bareInserts())}\n`);
