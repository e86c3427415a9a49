import { TextInput } from "@mantine/core";
import Link from "next/link";
import type { LookedAt, LookUp } from "@/operations/ports/look-ups";
import { Heading, Sheet } from "@/ui/sheet";
import sheet from "@/ui/sheet.module.css";
import { nothingAsked, QuestionLine } from "../inquiry/question-line";
import { clockText } from "../words/times";

const whatWords: Readonly<Record<LookedAt, string>> = { access: "what they open", page: "their page", events: "their events" };

const hrefOf = (text: string, before?: number): string => {
  const query = new URLSearchParams({ ...(text !== "" && { text }), ...(before !== undefined && { before: String(before) }) }).toString();
  return `/accounts/look-ups${query === "" ? "" : `?${query}`}`;
};

/** Who looked up whose access, pages or events, the latest first. */
export function LookUpsView({ lookUps, text, isLater }: { readonly lookUps: readonly LookUp[]; readonly text: string; readonly isLater: boolean }) {
  const last = lookUps.at(-1);
  return (
    <Sheet question={<QuestionLine asked={nothingAsked} />}>
      <Heading
        result="Who looked up whom"
        reference={<Link href="/accounts">Accounts</Link>}
        lead="What somebody opens is nobody’s business but of those who audit it: each look is noted."
      />
      <form action="/accounts/look-ups" style={{ maxWidth: 360, marginBottom: 16 }}>
        <TextInput label="Search" description="Any part of who looked, or at whom; Enter searches." name="text" defaultValue={text} maxLength={200} />
      </form>
      {lookUps.length === 0 ? (
        <p role="status">{text === "" ? "Nobody looked anybody up yet." : "Nothing fits this."}</p>
      ) : (
        <table className={sheet.table}>
          <thead>
            <tr>
              <th scope="col">When</th>
              <th scope="col">Who</th>
              <th scope="col">Looked at</th>
              <th scope="col">Of</th>
            </tr>
          </thead>
          <tbody>
            {lookUps.map(({ number, at, by, what, kind, id, name }) => (
              <tr key={number}>
                <td className={sheet.sub}>{clockText(at)}</td>
                <td>{by}</td>
                <td>{whatWords[what]}</td>
                <td>
                  <Link href={`/register/${kind}/${encodeURIComponent(id)}`}>{name === "" ? id : name}</Link>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <p className={sheet.links}>
        {isLater && <Link href={hrefOf(text)}>Latest</Link>}
        {last && last.number > 1 && lookUps.length > 1 && <Link href={hrefOf(text, last.number)}>Earlier</Link>}
      </p>
    </Sheet>
  );
}
