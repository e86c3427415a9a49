import { UnstyledButton } from "@mantine/core";
import sheet from "@/ui/sheet.module.css";

/** The button that ends the session; works without scripts, too. */
export const SignOut = ({ signOut }: { readonly signOut: () => Promise<void> }) => (
  <form action={signOut}>
    <UnstyledButton type="submit" className={sheet.plain}>
      Sign out
    </UnstyledButton>
  </form>
);
