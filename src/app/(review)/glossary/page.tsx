import { GlossaryView } from "@/features/shell/glossary-view";
import { accountWith } from "@/wiring/web/web-session";

export default async function GlossaryPage() {
  await accountWith("ask");
  return <GlossaryView />;
}
