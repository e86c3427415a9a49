import { SignInForm } from "@/features/sign-in/sign-in-form";
import { signIn } from "./actions";

export default function SignIn() {
  return <SignInForm signIn={signIn} />;
}
