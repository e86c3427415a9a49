import type { ReactNode } from "react";
import classes from "./sheet.module.css";

/** A working paper: the question on top, the answer in the middle, the why in the margin (without one, the paper is wide). */
export function Sheet({ question, margin, children }: { readonly question: ReactNode; readonly margin?: ReactNode; readonly children: ReactNode }) {
  return (
    <div className={classes.page}>
      <header className={classes.question}>{question}</header>
      <main className={margin === undefined ? classes.wide : classes.main}>{children}</main>
      {margin !== undefined && (
        <aside className={classes.margin} aria-label="Margin">
          {/* What is scrolled has to be reached with the keyboard. */}
          <div className={classes.beside} tabIndex={0}>
            {margin}
          </div>
        </aside>
      )}
    </div>
  );
}

/** The result in words, what it rests on in small print, and a sentence that says more. */
export function Heading({ result, reference, lead }: { readonly result: ReactNode; readonly reference?: ReactNode; readonly lead?: ReactNode }) {
  return (
    <>
      <div className={classes.head}>
        <h1>{result}</h1>
        {reference !== undefined && <span className={classes.reference}>{reference}</span>}
      </div>
      {lead !== undefined && <p className={classes.lead}>{lead}</p>}
    </>
  );
}

/** How far along something is; the words beside it say the same. */
export function Progress({ done, of, label }: { readonly done: number; readonly of: number; readonly label: string }) {
  return (
    <div className={classes.bar} role="progressbar" aria-label={label} aria-valuemin={0} aria-valuemax={of} aria-valuenow={done}>
      <span style={{ width: `${of === 0 ? 0 : (100 * done) / of}%` }} />
    </div>
  );
}
