"use client";

import { MantineProvider } from "@mantine/core";
import { Notifications } from "@mantine/notifications";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import type { ReactNode } from "react";
import { useState } from "react";
import { theme } from "./theme";

/** Theme, notices and what is fetched, for everything below; the nonce lets the theme's own styles pass the content security policy. */
export function Providers({ nonce, children }: { readonly nonce: string; readonly children: ReactNode }) {
  const [queries] = useState(() => new QueryClient({ defaultOptions: { queries: { refetchOnWindowFocus: false } } }));
  return (
    <QueryClientProvider client={queries}>
      <MantineProvider theme={theme} defaultColorScheme="auto" getStyleNonce={() => nonce}>
        <Notifications position="bottom-right" />
        {children}
      </MantineProvider>
    </QueryClientProvider>
  );
}
