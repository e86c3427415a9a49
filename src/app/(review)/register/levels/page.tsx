import { LevelsView } from "@/features/register/levels-view";
import { NoRegister } from "@/features/shell/no-register";
import { nomade } from "@/wiring/nomade";
import { accountWith } from "@/wiring/web/web-session";
import { draftLevels, proposeLevels } from "./actions";

export default async function LevelsPage() {
  await accountWith("edit-drafts");
  const snapshot = await nomade.latestSnapshot();
  return snapshot ? <LevelsView snapshot={snapshot.id} actions={{ propose: proposeLevels, draft: draftLevels }} /> : <NoRegister />;
}
