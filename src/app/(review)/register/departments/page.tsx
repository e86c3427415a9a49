import { DepartmentsView } from "@/features/register/departments-view";
import { NoRegister } from "@/features/shell/no-register";
import { asking, may } from "@/wiring/nomade";
import { accountWith } from "@/wiring/web/web-session";
import { beginDraft } from "../drafts/actions";

export default async function DepartmentsPage() {
  const account = await accountWith("read-register");
  const shown = await asking.showDepartments(account, undefined);
  if (!shown) return <NoRegister />;
  const isEditor = may(account, "edit-drafts") && may(account, "read-whole");
  return <DepartmentsView shown={shown} begin={isEditor ? beginDraft : undefined} />;
}
