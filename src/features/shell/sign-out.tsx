import { UnstyledButton } from "@mantine/core";
import sheet from "@/ui/sheet.module.css";

/** The button that ends the session; works without scripts, too. */
export const SignOut = ({ signOut, words = "Sign out" }: { readonly signOut: () => Promise<void>; readonly words?: string }) => (
  <form action={signOut}>
    <UnstyledButton type="submit" className={sheet.plain}>
      {words}
    </UnstyledButton>
  </form>
);
