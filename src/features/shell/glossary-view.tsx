import { Heading, Sheet } from "@/ui/sheet";
import sheet from "@/ui/sheet.module.css";
import { nothingAsked, QuestionLine } from "../inquiry/question-line";
import { capital } from "../words/numbers";
import { glossary } from "../words/help";

/** The words that Nomade uses, each with what it means here. */
export function GlossaryView() {
  return (
    <Sheet question={<QuestionLine asked={nothingAsked} />}>
      <Heading result="Glossary" lead="One word for each thing, in pages, documents and on the command line." />
      <table className={sheet.table}>
        <tbody>
          {glossary.map(([word, means]) => (
            <tr key={word} id={word.replaceAll(" ", "-")}>
              <th scope="row" style={{ width: 180, textAlign: "left" }}>
                {capital(word)}
              </th>
              <td style={{ maxWidth: 620 }}>{capital(means)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </Sheet>
  );
}
