"use client";

import { UnstyledButton, useMantineColorScheme } from "@mantine/core";
import { useHotkeys } from "@mantine/hooks";
import Link, { useLinkStatus } from "next/link";
import { usePathname } from "next/navigation";
import sheet from "@/ui/sheet.module.css";
import { SignOut } from "./sign-out";
import { useSingleKeys } from "./single-keys";
import { clockText } from "../words/times";

export interface PlacesMenuProps {
  readonly places: readonly { readonly name: string; readonly href: string; readonly count?: number | undefined }[];
  readonly snapshot: { readonly id: number; readonly takenAt: string; readonly hash: string; readonly leftOut: number } | undefined;
  readonly person: string;
  readonly signOut: () => Promise<void>;
  readonly children?: React.ReactNode;
}

/** Says beside a place that it is on its way, once that takes longer than a moment; it takes no room, so that nothing moves. */
function OnItsWay() {
  const { pending } = useLinkStatus();
  return pending && <span className={sheet.onItsWay} role="status" aria-label="Loading" />;
}

/** The places in the order of the work; at the foot, of which snapshot everything here speaks. */
export function PlacesMenu({ places, snapshot, person, signOut, children }: PlacesMenuProps) {
  const here = usePathname();
  const { colorScheme, setColorScheme } = useMantineColorScheme();
  const turn = () => setColorScheme(colorScheme === "dark" ? "light" : "dark");
  const [singleKeys] = useSingleKeys();
  useHotkeys([["d", () => singleKeys && turn()]]);
  return (
    <nav className={sheet.places} aria-label="Places">
      <Link href="/" className={sheet.brand}>
        Nomade
      </Link>
      {places.map(({ name, href, count }) => {
        const isHere = here === href || here.startsWith(`${href}/`);
        return (
          <Link key={href} href={href} className={isHere ? sheet.here : sheet.place} aria-current={isHere ? "page" : undefined}>
            {name}
            {count !== undefined && count > 0 && <span className={sheet.count}>{count}</span>}
            <OnItsWay />
          </Link>
        );
      })}
      <div className={sheet.foot}>
        {snapshot ? (
          <div>
            Snapshot {snapshot.id}
            <br />
            {clockText(snapshot.takenAt).replace(" UTC", "")}
            <br />
            {snapshot.hash.slice(0, 4)} {snapshot.hash.slice(4, 8)} …
            {snapshot.leftOut > 0 && (
              <b style={{ display: "block", color: "var(--grave)" }}>
                {snapshot.leftOut.toLocaleString("en-GB")} {snapshot.leftOut === 1 ? "row" : "rows"} not read
              </b>
            )}
          </div>
        ) : (
          <div>No snapshot yet</div>
        )}
        <div>
          {person}
          <div className={sheet.turns}>
            {children}
            <UnstyledButton className={sheet.plain} onClick={turn}>
              Dark or light
            </UnstyledButton>
            <SignOut signOut={signOut} />
          </div>
        </div>
      </div>
    </nav>
  );
}
