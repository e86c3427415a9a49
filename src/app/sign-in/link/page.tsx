import { LinkForm } from "@/features/sign-in/link-form";
import { LinkOver } from "@/features/sign-in/link-over";
import { nomade } from "@/wiring/nomade";
import { ownLanguage } from "@/wiring/web/docket-language";
import { goOnByLink } from "../actions";

export default async function LinkPage({ searchParams }: { readonly searchParams: Promise<{ token?: string | string[] }> }) {
  const { token } = await searchParams;
  const link = typeof token === "string" && token.length <= 128 ? await nomade.whoseLink(token) : undefined;
  return link && typeof token === "string" ? (
    <LinkForm token={token} name={link.account.name} language={await ownLanguage(link.account)} goOn={goOnByLink} />
  ) : (
    <LinkOver />
  );
}
