"use client";

import { Button, Code, CopyButton } from "@mantine/core";
import { useState } from "react";
import type { Feed } from "@/operations/feed/feed-tokens";
import sheet from "@/ui/sheet.module.css";
import { useAction } from "@/ui/use-action";
import { capital, plural } from "../words/numbers";
import { clockText } from "../words/times";

/** What is done about people that a source pushes. */
export interface FeedActions {
  /** A token for a source, shown once. */
  readonly makeToken: (source: string) => Promise<string | undefined>;
  readonly revokeToken: (id: number) => Promise<void>;
  /** Collects what was pushed, and goes to where it is looked at; a sentence where there is nothing. */
  readonly collect: (source: string) => Promise<string | undefined>;
}

/** A token as it was just made: it is told once. */
export function NewToken({ token, address }: { readonly token: string; readonly address: string }) {
  return (
    <div role="status">
      <p style={{ margin: "6px 0" }}>
        This is the token. It is shown now and never again; the source sends it as <code>Authorization: Bearer</code> to <code>{address}</code>.
      </p>
      <Code block style={{ display: "inline-block", overflowWrap: "anywhere", whiteSpace: "pre-wrap" }}>
        {token}
      </Code>{" "}
      <CopyButton value={token}>
        {({ copied, copy }) => (
          <Button size="compact-xs" variant="default" onClick={copy}>
            {copied ? "Copied" : "Copy it"}
          </Button>
        )}
      </CopyButton>
    </div>
  );
}

/** What a source has pushed, its tokens, and taking in what came. */
export function FeedSection({
  feed,
  address,
  mayKeepTokens,
  mayTakeIn,
  actions,
}: {
  readonly feed: Feed;
  readonly address: string;
  readonly mayKeepTokens: boolean;
  readonly mayTakeIn: boolean;
  readonly actions: FeedActions;
}) {
  const [token, setToken] = useState<string>();
  const { busy, refused, run } = useAction();
  const working = feed.tokens.filter(({ revokedAt }) => revokedAt === undefined);
  return (
    <div style={{ margin: "6px 0 10px" }}>
      <p style={{ margin: "0 0 6px" }}>
        It pushes people to <code>{address}</code>: {plural(feed.people, "person", "people")} and {plural(feed.groups, "group", "groups")} so far
        {feed.changedAt !== undefined && `, last ${clockText(feed.changedAt)}`}.{" "}
        {feed.changes === 0 ? "All of it was looked at." : `${capital(plural(feed.changes, "change", "changes"))} since it was looked at last.`}
      </p>
      {mayTakeIn && feed.people + feed.groups + feed.changes > 0 && (
        <Button size="xs" mb={6} disabled={busy} onClick={() => run(() => actions.collect(feed.source))}>
          See what it would bring
        </Button>
      )}
      {working.map(({ id, madeAt, madeBy, lastUsedAt }) => (
        <p key={id} className={sheet.sub} style={{ margin: "0 0 4px" }}>
          Token {id}, made by {madeBy} {clockText(madeAt)}, {lastUsedAt === undefined ? "never used" : `last used ${clockText(lastUsedAt)}`}
          {mayKeepTokens && (
            <>
              {" "}
              <Button
                size="compact-xs"
                variant="subtle"
                disabled={busy}
                onClick={() => run(() => actions.revokeToken(id))}
                aria-label={`Revoke token ${id} of ${feed.source}`}
              >
                Revoke
              </Button>
            </>
          )}
        </p>
      ))}
      {working.length === 0 && <p className={sheet.sub}>No token of it works: it cannot push anything.</p>}
      {mayKeepTokens && (
        <Button size="compact-xs" variant="default" disabled={busy} onClick={() => run(async () => setToken(await actions.makeToken(feed.source)))}>
          Make another token
        </Button>
      )}
      {token !== undefined && <NewToken token={token} address={address} />}
      {refused !== undefined && (
        <p role="alert" className={sheet.grave}>
          {refused}
        </p>
      )}
    </div>
  );
}
