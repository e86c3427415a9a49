import { present } from "../../events/told-card";
import { rule, standards } from "../rule";
import { own, usualFormats } from "../settings";

const fits = (text: string, greatest: number): boolean => /^[0-9]+$/.test(text) && BigInt(text) <= BigInt(greatest);

/** A number or facility code that its card's format cannot hold. */
export const numberOutOfFormat = rule({
  key: "number-out-of-format",
  base: 8,
  source: standards.practice,
  parameters: {},
  find: ({ lives, facility, settings }) => ({
    flags: facility.credentials.flatMap((credential, i) => {
      const { bitFormat = "" } = credential;
      const format = own(settings.formats, bitFormat) ?? own(usualFormats, bitFormat);
      if (format === undefined || !lives.isMarkedActive(i)) return [];
      const fields = (["facilityCode", "number"] as const).filter((field) => {
        const text = present(credential[field]);
        return text !== undefined && !fits(text, format[field]);
      });
      return fields.length === 0 ? [] : [{ subject: { kind: "credential" as const, id: credential.id }, proof: { fields } }];
    }),
  }),
});
