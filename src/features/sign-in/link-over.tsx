import Link from "next/link";
import classes from "./sign-in-form.module.css";

/** What a link leads to that was used already, is over, or is none: nothing tells which. */
export function LinkOver() {
  return (
    <main className={classes.page}>
      <section className={classes.words}>
        <h1>This link leads nowhere any more</h1>
        <p>It was used already, or its time is over. Ask for another one, or sign in with your password.</p>
        <p>
          <Link href="/sign-in">Sign in</Link>
        </p>
      </section>
    </main>
  );
}
