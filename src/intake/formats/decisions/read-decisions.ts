import Joi from "joi";
import type { DataIssue } from "@/core/facility/issue";
import { problem } from "@/core/facility/issue";
import type { Decided } from "@/core/findings/judged";
import type { Result } from "@/core/kernel/result";
import { failure, success } from "@/core/kernel/result";
import { minuteDown, parseInstant } from "@/core/time/instant";
import { asIssue, quoted } from "../facility/read-facility";

const schema = Joi.object<{ at: string; cardholder?: string; credential?: string; area: string; decision: string }>({
  at: Joi.string()
    .custom((text: string, helpers) => (parseInstant(text) ? text : helpers.error("nomade.expected", { expected: "an instant such as 2026-03-02T08:00:00Z" })))
    .required(),
  cardholder: Joi.string(),
  credential: Joi.string(),
  area: Joi.string().required(),
  decision: Joi.string().required(),
})
  .xor("cardholder", "credential")
  .unknown();

/** Reads decisions of earlier certifications, one JSON object a line; fails with everything that is wrong, by line. */
export function readDecisions(text: string): Result<readonly Decided[], readonly DataIssue[]> {
  const issues: DataIssue[] = [];
  const decisions: Decided[] = [];
  text
    .replace(/^\uFEFF/, "")
    .split("\n")
    .forEach((line, i) => {
      if (line.trim() === "") return;
      const at = `line ${i + 1}`;
      let value: unknown;
      try {
        value = JSON.parse(line);
      } catch (error) {
        issues.push(problem(at, "not-json", { value: quoted(line.slice(0, 40)), reason: (error as Error).message }));
        return;
      }
      const checked = schema.validate(value, { abortEarly: false, convert: false, errors: { render: false } });
      if (checked.error) {
        for (const issue of checked.error.details.map(asIssue)) issues.push({ ...issue, path: issue.path === "" ? at : `${at}: ${issue.path}` });
        return;
      }
      const { at: instant, cardholder, credential = "", area, decision } = checked.value;
      const minute = parseInstant(instant);
      if (!minute) return;
      decisions.push({
        at: minuteDown(minute),
        holder: cardholder === undefined ? { kind: "credential", id: credential } : { kind: "cardholder", id: cardholder },
        area,
        decision,
      });
    });
  return issues.length > 0 ? failure(issues) : success(decisions);
}
