import Joi from "joi";
import { profileSchema } from "@/wiring/web/profile-input";
import type { SourceProfile } from "@/wiring/web/profile-input";
import { waitingFileRoute } from "@/wiring/web/waiting-file-route";

const schema = Joi.object<{ task: string; source: string; profile: SourceProfile | undefined }>({
  task: Joi.string().max(64).required(),
  source: Joi.string().max(255).allow("").required(),
  profile: profileSchema,
});

/** Shows what a file that waits holds, and what its first rows make by a profile; stores nothing. */
export const POST = waitingFileRoute(schema, async (work, account, { path, name }, { source, profile }) => ({
  tried: await work.tryProfile(account, { path, name, source, profile }),
}));
