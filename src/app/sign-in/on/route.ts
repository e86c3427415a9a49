import { redirect } from "next/navigation";
import { nomade } from "@/wiring/nomade";
import { keepAskedSignOn } from "@/wiring/web/sign-on-cookie";

/** Sends whoever asks to the identity provider. */
export async function GET(): Promise<Response> {
  const begun = await nomade.beginSignOn();
  if (!begun) redirect("/sign-in?refused=no-provider");
  await keepAskedSignOn(begun.kept);
  redirect(begun.address);
}
