import Joi from "joi";
import { intakeMoment, profileSchema } from "@/wiring/web/profile-input";
import type { SourceProfile } from "@/wiring/web/profile-input";
import { waitingFileRoute } from "@/wiring/web/waiting-file-route";

const schema = Joi.object<{ task: string; source: string; profile: SourceProfile | undefined; asOf: string | undefined }>({
  task: Joi.string().max(64).required(),
  source: Joi.string().max(255).allow("").required(),
  profile: profileSchema,
  asOf: intakeMoment,
});

/** Reads a file that waits once more, by a profile and for a moment. */
export const POST = waitingFileRoute(schema, async (work, account, { path, name }, { source, profile, asOf }) => ({
  preview: await work.previewIntake(account, { path, name, source, profile, asOf }),
}));
