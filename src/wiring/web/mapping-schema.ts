import Joi from "joi";
import { isZoneName } from "@/core/time/zone";
import type { BundleMapping } from "@/intake/formats/tables/read-bundle";

export type { BundleMapping };

const writes = Joi.object({
  endsIncluded: Joi.boolean(),
  backwards: Joi.valid("overnight", "never"),
  endless: Joi.string().pattern(/^[0-9]{4}-[0-9]{2}-[0-9]{2}$/, "a date YYYY-MM-DD"),
  dates: Joi.valid("dmy", "mdy"),
  zone: Joi.string()
    .max(64)
    .custom((name: string, helpers) =>
      isZoneName(name) ? name : helpers.message({ custom: `"${name}" is no zone; expected one of the IANA database such as Europe/Paris` }),
    ),
  noPin: Joi.array().items(Joi.string().max(32)).max(20),
});

/** A mapping of headers: by file, the table that it is and for each header the column, or null to leave it aside, and how the file writes things. */
export const mappingSchema = Joi.object<BundleMapping>().pattern(
  Joi.string().max(255),
  Joi.object({
    table: Joi.string().max(64),
    headers: Joi.object().pattern(Joi.string().max(1000), Joi.string().max(64).allow(null)),
    writes,
    dayTypes: Joi.object().pattern(Joi.string().max(1000).allow(""), Joi.string().trim().max(64)),
  }),
);
