import Joi from "joi";
import type { BundleMapping } from "@/intake/bundle/read-bundle";

export type { BundleMapping };

/** A mapping of headers: by file, the table that it is and for each header the column, or null to leave it aside. */
export const mappingSchema = Joi.object<BundleMapping>().pattern(Joi.string().max(255), Joi.object({ table: Joi.string().max(64), headers: Joi.object().pattern(Joi.string().max(1000), Joi.string().max(64).allow(null)) }));
