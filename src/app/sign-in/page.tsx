import { SignInForm } from "@/features/sign-in/sign-in-form";
import { signOnRefusals } from "@/features/sign-in/sign-on-words";
import { nomade } from "@/wiring/nomade";
import { signIn } from "./actions";

export default async function SignIn({ searchParams }: { readonly searchParams: Promise<{ refused?: string | string[] }> }) {
  const { refused } = await searchParams;
  const why = typeof refused === "string" && Object.hasOwn(signOnRefusals, refused) ? signOnRefusals[refused as keyof typeof signOnRefusals] : undefined;
  return <SignInForm signIn={signIn} provider={nomade.signOnName()} refused={why} />;
}
