import Joi from "joi";
import { listKeys } from "@/core/facility/document";
import { isZoneName } from "@/core/time/zone";
import { encodings } from "@/intake/formats/tables/text-form";
import type { SourceProfile } from "./source-profile";
import { momentForms } from "./source-profile";
import { targetTables } from "./target-fields";
import { patternPieces } from "./text-parts";

const longestText = 1000;
const mostColumns = 4000;
const mostValues = 20_000;

const text = Joi.string().allow("").max(longestText);
const column = Joi.string().max(longestText);
const columns = Joi.array().items(column).max(mostColumns);
const zone = Joi.string()
  .max(64)
  .custom((name: string, helpers) =>
    isZoneName(name) ? name : helpers.message({ custom: "{{#label}} is {{#name}}; expected a zone of the IANA database such as Europe/Paris" }, { name }),
  );
const pattern = Joi.string()
  .max(200)
  .custom((written: string, helpers) => {
    const pieces = patternPieces(written);
    return typeof pieces === "string" ? helpers.message({ custom: "{{#label}} is {{#written}}; {{#why}}" }, { written, why: pieces }) : written;
  });

/** By any text, whatever it is called. */
const byText = (value: Joi.Schema) => Joi.object().pattern(Joi.string().allow("").max(longestText), value).max(mostValues);

const condition = Joi.object({ column: column.required(), values: byText(Joi.boolean()).required() });

const place = Joi.number().integer().min(1).max(10_000);
const has = (key: string) => Joi.object({ [key]: Joi.exist().required() }).unknown();
const part = Joi.alternatives().conditional(has("pattern"), {
  then: Joi.object({ pattern: pattern.required() }),
  otherwise: Joi.alternatives().conditional(has("delimiter"), {
    then: Joi.object({ delimiter: Joi.string().min(1).max(20).required(), nth: Joi.number().integer().invalid(0).min(-100).max(100).required() }),
    otherwise: Joi.object({ from: place.required(), to: place.min(Joi.ref("from")).required() }),
  }),
});

const moment = Joi.object({
  forms: Joi.array()
    .items(Joi.valid(...momentForms))
    .max(momentForms.length)
    .required(),
  zone,
  pivot: Joi.number().integer().min(0).max(100),
  midnight: Joi.valid("date", "instant"),
  never: Joi.array().items(text).max(200),
  neverFrom: Joi.number().integer().min(1).max(9999),
});

const hours = Joi.object({
  endsIncluded: Joi.valid(true),
  backwards: Joi.valid("overnight", "never"),
  backwardTexts: byText(Joi.valid("overnight", "never")),
  allDay: Joi.array().items(text).max(200),
  never: Joi.array().items(text).max(200),
});

const field = Joi.object({
  columns: columns.max(20),
  join: text,
  constant: text,
  part,
  turned: Joi.valid(true),
  case: Joi.valid("lower", "upper"),
  otherwise: text,
  split: Joi.string().allow("").max(20),
  values: byText(text.allow(null)),
  by: Joi.string().max(64),
  moment,
  hours,
  weekdays: Joi.object({ monday: Joi.number().integer().min(0).max(7).required(), sunday: Joi.number().integer().min(0).max(7).required() }),
  number: Joi.valid("hexadecimal", "code-and-number", "26-bit"),
  noPin: Joi.array().items(Joi.string().max(32)).max(20),
}).or("columns", "constant");

const table = Joi.object({
  name: column.required(),
  headers: columns.required(),
  text: Joi.object({
    encoding: Joi.valid(...encodings),
    delimiter: Joi.string().length(1),
    quote: Joi.string().allow("").max(1),
    skip: Joi.number().integer().min(0).max(1000),
    header: Joi.boolean(),
  }),
  only: condition,
  unfold: Joi.array()
    .items(Joi.object({ heading: text.required(), columns: columns.min(1).max(20).required() }))
    .max(mostColumns),
  aside: columns,
  mayLack: columns,
  makes: Joi.array()
    .items(
      Joi.object({
        table: Joi.valid(...targetTables.keys()).required(),
        when: condition,
        fields: Joi.object().pattern(Joi.string().max(64), field).required(),
      }),
    )
    .max(40)
    .required(),
});

/** The one definition of a well-formed `nomade.profile/1`; whether it fits a table is seen when that is read. */
export const profileSchema = Joi.object<SourceProfile>({
  format: Joi.valid("nomade.profile/1").required(),
  facility: Joi.object({ name: text, timeZone: zone }),
  asOf: Joi.valid("file-name"),
  tables: Joi.array().items(table).max(1000).required(),
  keys: Joi.object().pattern(Joi.valid(...listKeys), Joi.array().items(Joi.string().max(64)).min(1).max(5)),
  madeFromNames: Joi.object().pattern(Joi.valid(...listKeys), Joi.object({ with: byText(text), ids: byText(Joi.string().max(128)) })),
  missing: Joi.object({
    ...Object.fromEntries(listKeys.map((list) => [list, Joi.valid("gone", "kept")])),
    // Only people can be said to have left.
    cardholders: Joi.valid("gone", "left", "kept"),
    memberships: Joi.valid("gone", "kept", "gone-from-named"),
  }),
  calendars: byText(Joi.object({ calendar: Joi.string().max(128), dayTypes: byText(Joi.string().trim().max(64)) })),
});
