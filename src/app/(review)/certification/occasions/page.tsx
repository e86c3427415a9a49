import { OccasionsView } from "@/features/certification/occasions-view";
import { may, nomade } from "@/wiring/nomade";
import { accountWith } from "@/wiring/web/web-session";
import { setOccasion } from "./actions";

export default async function OccasionsPage() {
  const account = await accountWith("read-whole");
  return <OccasionsView rules={await nomade.listOccasions(account)} set={may(account, "run-rounds") ? setOccasion : undefined} />;
}
