import { failure, success } from "@/core/kernel/result";
import type { Result } from "@/core/kernel/result";

/** Pixels in each unit of length, at 96 to the inch (CSS Values and Units 3, §6.2, from memory). */
const pixelsOf: Readonly<Record<string, number>> = { "": 1, px: 1, in: 96, cm: 96 / 2.54, mm: 9.6 / 2.54, q: 2.4 / 2.54, pt: 4 / 3, pc: 16 };
// Read one way only, so that a long row of digits is not tried again at every place.
const number = "[+-]?(?:\\d+(?:\\.\\d*)?|\\.\\d+)(?:[eE][+-]?\\d+)?";
const lengthForm = new RegExp(`^(${number})\\s*([a-zA-Z]*)$`);
const boxForm = new RegExp(`^\\s*(${number})[\\s,]+(${number})[\\s,]+(${number})[\\s,]+(${number})\\s*$`);

/** A drawing is laid out with so many pixels along its longer side; being lines, it is sharp at any other. */
const longerSide = 2000;
const narrowest = 50;

function pixels(length: string | undefined): number | undefined {
  const [, amount, unit = ""] = lengthForm.exec(length?.trim() ?? "") ?? [];
  const each = pixelsOf[unit.toLowerCase()];
  return amount === undefined || each === undefined ? undefined : Number(amount) * each;
}

/** No length or box that means anything is written longer. */
const longestWritten = 400;

/** The part of its plane that a drawing shows, by its `viewBox`, or else by its width and height, and how many pixels it is laid out in. */
export function drawingSize(
  viewBox: string | undefined,
  width: string | undefined,
  height: string | undefined,
): Result<{ readonly viewBox: string; readonly width: number; readonly height: number }, string> {
  if ([viewBox, width, height].some((text) => (text ?? "").length > longestWritten)) return failure("its viewBox, width or height is longer than any size");
  const box = viewBox === undefined ? undefined : boxForm.exec(viewBox)?.slice(1).map(Number);
  const [x = 0, y = 0, across = NaN, down = NaN] = box ?? [0, 0, pixels(width), pixels(height)];
  if (![x, y, across, down].every(Number.isFinite) || across <= 0 || down <= 0)
    return failure("it says neither by viewBox nor by width and height how large it is");
  if (across / down > narrowest || down / across > narrowest) return failure(`one of its sides is more than ${narrowest} times the other`);
  const scale = longerSide / Math.max(across, down);
  return success({ viewBox: `${x} ${y} ${across} ${down}`, width: Math.max(1, Math.round(across * scale)), height: Math.max(1, Math.round(down * scale)) });
}
