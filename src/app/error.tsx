"use client";

import { Button } from "@mantine/core";

export default function Failed({ reset }: { readonly error: Error; readonly reset: () => void }) {
  return (
    <main style={{ padding: "60px 28px", maxWidth: 560 }}>
      <h1>This page could not be made</h1>
      <p>Something went wrong on the server; nothing was changed. Try again, and if it stays so, look at the server’s messages.</p>
      <Button onClick={reset}>Try again</Button>
    </main>
  );
}
