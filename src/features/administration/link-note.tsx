"use client";

import { CopyButton, UnstyledButton } from "@mantine/core";
import sheet from "@/ui/sheet.module.css";
import classes from "./administration.module.css";

/** A link that signs in once, shown now and never again. */
export function LinkNote({ link, name }: { readonly link: string; readonly name: string }) {
  const address = typeof window === "undefined" ? link : new URL(link, window.location.origin).href;
  return (
    <div className={classes.link} role="status">
      <p>
        A link for <b>{name}</b>: it signs in once, within seven days, and sets the password. It is shown only now.
      </p>
      <code>{address}</code>
      <CopyButton value={address}>
        {({ copied, copy }) => (
          <UnstyledButton className={sheet.plain} onClick={copy}>
            {copied ? "Copied" : "Copy it"}
          </UnstyledButton>
        )}
      </CopyButton>
    </div>
  );
}
