import type { Schema } from "joi";
import type { Result } from "@/core/kernel/result";
import { failure, success } from "@/core/kernel/result";

/** What came in from outside, if it is as the schema says; otherwise what is wrong with it, all at once. Strict: nothing is converted unless asked for. */
export function checkInput<T>(schema: Schema<T>, input: unknown, convert = false): Result<T, string> {
  const checked = schema.validate(input, { abortEarly: false, convert });
  return checked.error ? failure(checked.error.message) : success(checked.value);
}
