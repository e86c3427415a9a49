"use client";

import { Button } from "@mantine/core";

export interface FailedProps {
  readonly error: Error & { readonly digest?: string };
  readonly reset: () => void;
}

/** What is told by the mark that an error bears on its way to the page; its words stay on the server. */
const told: Readonly<Record<string, { readonly title: string; readonly words: string }>> = {
  "took-too-long": { title: "This took too long", words: "The question was stopped so that others are served. Ask for less at once (one door, a shorter time), or try again." },
  interrupted: { title: "This was interrupted", words: "The server had to stop a part of itself while it worked on this. Load the page again and look whether it was done." },
};
const unknown = { title: "This page could not be made", words: "Something went wrong on the server. Load the page again and look whether what you did is there; if this stays so, look at the server’s messages." };

/** In place of a page that could not be made. */
export function FailedView({ error, reset }: FailedProps) {
  const { title, words } = told[error.digest ?? ""] ?? unknown;
  return (
    <main style={{ padding: "60px 28px", maxWidth: 560 }}>
      <h1>{title}</h1>
      <p>{words}</p>
      <Button onClick={reset}>Try again</Button>
    </main>
  );
}
