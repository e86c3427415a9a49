import { Readable } from "node:stream";
import { describe, expect, it } from "@jest/globals";
import { unzipSync } from "fflate";
import { usualLimits } from "@/intake/formats/limits";
import { readBundle } from "./read-bundle";
import { settleBundle } from "./settle-bundle";
import { bundleTables } from "./tables";
import { templateWorkbook, templateZip } from "./templates";
import { workbookFiles } from "./workbook";

describe("the templates", () => {
  it("have every table with one example row, and are taken in as they are", async () => {
    const zipped = Object.entries(unzipSync(templateZip())).map(([name, bytes]) => ({
      name,
      open: () => Promise.resolve(Readable.from([Buffer.from(bytes)])),
    }));
    for (const files of [zipped, workbookFiles(templateWorkbook(), usualLimits)]) {
      const bundle = await readBundle(files);
      const { checked, refused } = settleBundle(bundle, undefined, "2026-01-05T08:00:00Z");
      expect(refused).toEqual([]);
      expect(checked?.notes.filter(({ level }) => level === "error")).toEqual([]);
      for (const { file } of bundleTables) expect([file, bundle.files.find(({ name }) => name === `${file}.csv`)?.rows]).toEqual([file, 1]);
    }
  });
});
