"use client";

import { MantineProvider } from "@mantine/core";
import type { ReactNode } from "react";
import { theme } from "./theme";

/** Theme for everything below; the nonce lets the theme's own styles pass the content security policy. */
export function Providers({ nonce, children }: { readonly nonce: string; readonly children: ReactNode }) {
  return (
    <MantineProvider theme={theme} defaultColorScheme="auto" getStyleNonce={() => nonce}>
      {children}
    </MantineProvider>
  );
}
