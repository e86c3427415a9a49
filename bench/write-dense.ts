import { writeFileSync } from "node:fs";
import { parseArgs } from "node:util";
import { required } from "@/core/kernel/invariant";
import { denseFacility } from "./dense";

/** Writes a dense register as a facility document. */
const { values } = parseArgs({ options: { cardholders: { type: "string" }, doors: { type: "string" }, out: { type: "string" } } });
writeFileSync(
  required(values.out, "--out names a file"),
  JSON.stringify(denseFacility({ cardholders: Number(values.cardholders), doors: Number(values.doors), seed: 7 })),
);
