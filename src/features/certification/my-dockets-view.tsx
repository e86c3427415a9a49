import Link from "next/link";
import type { Docket, Round } from "@/operations/ports/rounds";
import { Progress } from "@/ui/sheet";
import sheet from "@/ui/sheet.module.css";
import { SignOut } from "../shell/sign-out";
import { capital, plural } from "../words/numbers";
import classes from "./docket.module.css";

/** What a certifier sees first: their dockets, and nothing else. */
export function MyDocketsView({
  dockets,
  name,
  signOut,
}: {
  readonly dockets: readonly { readonly docket: Docket; readonly round: Round }[];
  readonly name: string;
  readonly signOut: () => Promise<void>;
}) {
  const open = dockets.filter(({ docket }) => docket.signedAt === undefined).length;
  return (
    <main className={classes.page}>
      <div className={classes.top}>
        <strong>Nomade</strong>
        <SignOut signOut={signOut} />
      </div>
      <div className={classes.person}>
        <h1>{open === 0 ? "Nothing waits for you" : capital(`${plural(open, "docket waits", "dockets wait")} for you`)}</h1>
        <div className={sheet.sub}>{name}</div>
      </div>
      {dockets.map(({ docket, round }) => (
        <section key={docket.id} className={classes.line}>
          <h2>
            <Link href={`/docket/${docket.id}`}>{round.name}</Link>
          </h2>
          <p className={sheet.sub}>
            {docket.signedAt === undefined
              ? `Due ${round.due}. ${docket.decided} of ${docket.lines} lines decided, ${docket.flagged} with something against them.`
              : `Signed. ${docket.statement ?? ""}`}
          </p>
          <Progress done={docket.decided} of={docket.lines} label={`${docket.decided} of ${docket.lines} lines decided`} />
        </section>
      ))}
    </main>
  );
}
