import Joi from "joi";
import { parseInstant } from "@/core/time/instant";

export { profileSchema } from "@/intake/profile/profile-schema";
export type { SourceProfile } from "@/intake/profile/source-profile";

/** The moment for which files speak, where somebody typed it. */
export const intakeMoment = Joi.string()
  .max(40)
  .custom((text: string, helpers) =>
    parseInstant(text) ? text : helpers.message({ custom: "{{#label}} is {{#text}}; expected an instant such as 2026-03-02T08:00:00Z" }, { text }),
  );
