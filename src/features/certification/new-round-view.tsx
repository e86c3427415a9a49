import type { RoundPreview } from "@/operations/certification/preview-round";
import { Heading, Sheet } from "@/ui/sheet";
import sheet from "@/ui/sheet.module.css";
import { nothingAsked, QuestionLine } from "../inquiry/question-line";
import { capital, plural } from "../words/numbers";
import type { OpenRound } from "./open-round-form";
import { OpenRoundForm } from "./open-round-form";
import type { AskedRound } from "./round-address";
import { ScopeForm } from "./scope-form";

/** What a round over the present snapshot would be, before it starts: how many dockets, how long each, who is missing. */
export function NewRoundView({ preview, asked, open }: { readonly preview: RoundPreview; readonly asked: AskedRound; readonly open: OpenRound }) {
  const { about, ...rest } = asked.scope;
  const isNarrowed = Object.values(rest).some((value) => value !== undefined);
  const scope = <ScopeForm asked={asked} choices={preview.choices} all={preview.all} />;
  const isNobody = about !== undefined && preview.about === undefined;
  if (preview.lines === 0)
    return (
      <Sheet question={<QuestionLine asked={nothingAsked} />}>
        <Heading
          result={isNobody ? "There is nobody to certify" : "There is nothing to certify"}
          reference={`Snapshot ${preview.snapshot}`}
          lead={
            isNobody
              ? "The register has no such person, and no such card without one: a card that somebody holds is certified with them. Begin at a finding."
              : isNarrowed
                ? "No line is in what you chose. Choose something wider."
                : `${preview.about ?? "Nobody"} opens ${about ? "nothing" : "anything"} in the coming 13 months, and no card is asleep: there is no line to decide.`
          }
        />
        {isNarrowed && scope}
      </Sheet>
    );
  const margin = (
    <>
      <h2>Open it</h2>
      <p className={sheet.sub}>The lines are frozen as they stand in snapshot {preview.snapshot}; later intakes do not change them.</p>
      <OpenRoundForm
        open={open}
        snapshot={preview.snapshot}
        asked={asked}
        dockets={preview.dockets}
        name={preview.about === undefined ? "" : `About ${preview.about}`}
      />
    </>
  );
  // What nobody certifies is a docket of its own.
  const dockets = preview.dockets.length + (preview.uncertified > 0 ? 1 : 0);
  const missing = preview.dockets.filter(({ hasAccount }) => !hasAccount).length;
  return (
    <Sheet question={<QuestionLine asked={nothingAsked} />} margin={margin}>
      <Heading
        result={`A new round${preview.about === undefined ? "" : ` about ${preview.about}`}: ${plural(preview.lines, "line", "lines")} in ${plural(dockets, "docket", "dockets")}`}
        reference={`Preview on snapshot ${preview.snapshot}`}
        lead={[
          preview.flagged === 0
            ? "Nothing speaks against any of them."
            : `${capital(plural(preview.flagged, "line has something against it and comes", "lines have something against them and come"))} first.`,
          preview.definitions > 0 ? `${capital(plural(preview.definitions, "line is about a definition", "lines are about definitions"))}.` : "",
          preview.withoutMail > 0 ? `${capital(plural(preview.withoutMail, "certifier has", "certifiers have"))} no e-mail address in the register.` : "",
          missing > 0 ? `${capital(plural(missing, "certifier has", "certifiers have"))} no account yet.` : "",
          preview.uncertified > 0 ? `${capital(plural(preview.uncertified, "line has", "lines have"))} nobody to certify them and would come to you.` : "",
        ]
          .filter(Boolean)
          .join(" ")}
      />
      {!about && scope}
      <table className={sheet.table}>
        <thead>
          <tr>
            <th scope="col">Certifier</th>
            <th scope="col" className={sheet.number}>
              lines
            </th>
            <th scope="col" className={sheet.number}>
              with findings
            </th>
            <th scope="col" className={sheet.number}>
              takes about
            </th>
            <th scope="col">account</th>
          </tr>
        </thead>
        <tbody>
          {preview.dockets.map(({ certifier, lines, flagged, minutes, hasAccount }) => (
            <tr key={certifier}>
              <td>{certifier}</td>
              <td className={sheet.number}>{lines}</td>
              <td className={sheet.number}>{flagged}</td>
              <td className={sheet.number}>{minutes} min</td>
              <td className={sheet.sub}>{hasAccount ? "signs in" : "none yet"}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </Sheet>
  );
}
