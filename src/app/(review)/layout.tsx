import type { ReactNode } from "react";
import Link from "next/link";
import { Help } from "@/features/shell/help";
import { Seeing } from "@/features/shell/seeing";
import { PlacesMenu } from "@/features/shell/places-menu";
import sheet from "@/ui/sheet.module.css";
import { hasOutbox, may, nomade } from "@/wiring/nomade";
import { accountWith } from "@/wiring/web/web-session";
import { signOut } from "../sign-in/actions";

export default async function ReviewLayout({ children }: { readonly children: ReactNode }) {
  const account = await accountWith("ask");
  const [snapshot, findings] = await Promise.all([nomade.latestSnapshot(), nomade.countFindings(account)]);
  const places = [
    ...(may(account, "take-in") ? [{ name: "Intake", href: "/intake" }] : []),
    { name: "Register", href: "/register" },
    { name: "Inquiry", href: "/inquiry" },
    ...(may(account, "read-findings") ? [{ name: "Findings", href: "/findings", count: findings }] : []),
    { name: "Certification", href: "/certification" },
    ...(may(account, "read-record") ? [{ name: "Evidence", href: "/evidence" }] : []),
  ];
  return (
    <div className={sheet.frame}>
      <PlacesMenu
        places={places}
        snapshot={snapshot && { id: snapshot.id, takenAt: snapshot.takenAt, hash: snapshot.hash, leftOut: snapshot.leftOut }}
        person={`${account.name}, ${account.role}${account.sites ? " of some sites" : ""}`}
        signOut={signOut}
      >
        <Help />
        {may(account, "keep-accounts") && (
          <Link href="/accounts" className={sheet.plain}>
            Accounts
          </Link>
        )}
        {may(account, "keep-accounts") && hasOutbox() && (
          <Link href="/outbox" className={sheet.plain}>
            Outbox
          </Link>
        )}
        <Link href="/account" className={sheet.plain}>
          Your account
        </Link>
      </PlacesMenu>
      <Seeing whole={may(account, "read-whole")} record={may(account, "read-record")} signIn={account.signIn}>
        {children}
      </Seeing>
    </div>
  );
}
