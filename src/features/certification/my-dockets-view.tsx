import Link from "next/link";
import type { Language } from "@/core/certification/signing-statement";
import type { Docket, Round } from "@/operations/ports/rounds";
import { Progress } from "@/ui/sheet";
import sheet from "@/ui/sheet.module.css";
import { SignOut } from "../shell/sign-out";
import { docketWords } from "../words/docket/in-language";
import classes from "./docket.module.css";

/** What a certifier sees first: their dockets, and nothing else. */
export function MyDocketsView({
  dockets,
  name,
  account,
  language,
  signOut,
}: {
  readonly dockets: readonly { readonly docket: Docket; readonly round: Round }[];
  readonly name: string;
  /** Number of the account: a docket of another one is somebody's for whom it stands in. */
  readonly account: number;
  readonly language: Language;
  readonly signOut: () => Promise<void>;
}) {
  const words = docketWords(language);
  const isOpen = ({ signedAt, closedAt }: Docket): boolean => signedAt === undefined && closedAt === undefined;
  const open = dockets.filter(({ docket }) => isOpen(docket)).length;
  return (
    <main className={classes.page} lang={language}>
      <div className={classes.top}>
        <strong>Nomade</strong>
        <span>
          <Link href="/account" className={sheet.plain}>
            {words.yourAccount}
          </Link>{" "}
          <SignOut signOut={signOut} words={words.signOut} />
        </span>
      </div>
      <div className={classes.person}>
        <h1>{words.dockets(open)}</h1>
        <div className={sheet.sub}>{name}</div>
      </div>
      {dockets.map(({ docket, round }) => {
        const progress = words.progress(docket.decided, docket.lines);
        return (
          <section key={docket.id} className={classes.line}>
            <h2>
              <Link href={`/docket/${docket.id}`}>{round.name}</Link>
            </h2>
            {docket.account !== account && docket.certifierName !== undefined && <p className={sheet.sub}>{words.waitsFor(docket.certifierName)}</p>}
            {docket.corrects !== undefined && <p className={sheet.sub}>{words.correctsEarlier}</p>}
            <p className={sheet.sub}>
              {docket.signedAt !== undefined
                ? `${words.signedThen} ${docket.statement ?? ""}`
                : docket.closedAt !== undefined
                  ? words.closedThen
                  : [words.due(round.due), `${progress}.`, docket.flagged > 0 ? words.flaggedAmong(docket.flagged) : ""].filter(Boolean).join(" ")}
            </p>
            <Progress done={docket.decided} of={docket.lines} label={progress} />
          </section>
        );
      })}
    </main>
  );
}
