import { createHash } from "node:crypto";
import sharp from "sharp";
import { failure, success } from "@/core/kernel/result";
import type { Result } from "@/core/kernel/result";
import type { Picture } from "@/core/plans/plan";
import { safeDrawing } from "./safe-drawing";

/** Bytes of a picture at most, and of a drawing, which is read whole into elements. */
export const mostPictureBytes = 8 * 1024 * 1024;
const mostDrawingBytes = 5 * 1024 * 1024;
const mostPixels = 50_000_000;

/** A picture made safe to be shown, and what was left out of it. */
export interface ReadPicture {
  readonly picture: Picture;
  /** Each in words with how often. */
  readonly leftOut: readonly string[];
}

const begins = (bytes: Uint8Array, ...start: readonly number[]): boolean => start.every((byte, i) => bytes[i] === byte);

const decoded = (bytes: Uint8Array): string | undefined => {
  const label = begins(bytes, 0xff, 0xfe) ? "utf-16le" : begins(bytes, 0xfe, 0xff) ? "utf-16be" : "utf-8";
  try {
    return new TextDecoder(label, { fatal: true }).decode(bytes);
  } catch {
    return undefined;
  }
};

const asPicture = (mediaType: Picture["mediaType"], bytes: Uint8Array, width: number, height: number): Picture => ({
  mediaType,
  bytes,
  width,
  height,
  sha256: createHash("sha256").update(bytes).digest("hex"),
});

/** Whether the pixels of a PNG or JPEG can be read, and are not too many. */
async function pixelsOf(bytes: Uint8Array): Promise<Result<{ readonly width: number; readonly height: number }, string>> {
  try {
    const { width, height } = await sharp(bytes, { limitInputPixels: false }).metadata();
    return width * height > mostPixels
      ? failure(`it has ${width} × ${height} pixels; ${mostPixels.toLocaleString("en-GB")} are the most that are taken`)
      : success({ width, height });
  } catch {
    return failure("its pixels cannot be read: the file is damaged, or is no picture of the kind that it says");
  }
}

/**
 * Pixels drawn anew, so that nothing but them is kept: not where a photograph was taken, nor what else is hidden in the file. It is turned upright as the
 * camera says.
 */
async function readPixels(bytes: Uint8Array, kind: "png" | "jpeg"): Promise<Result<ReadPicture, string>> {
  const size = await pixelsOf(bytes);
  if (!size.ok) return size;
  try {
    const upright = sharp(bytes, { limitInputPixels: mostPixels, failOn: "warning" }).autoOrient();
    const { data, info } = await (kind === "png" ? upright.png({ compressionLevel: 6 }) : upright.jpeg({ quality: 92 })).toBuffer({ resolveWithObject: true });
    return success({ picture: asPicture(kind === "png" ? "image/png" : "image/jpeg", data, info.width, info.height), leftOut: [] });
  } catch {
    return failure("its pixels cannot be read to the end: the file is damaged or cut off");
  }
}

async function readDrawing(bytes: Uint8Array): Promise<Result<ReadPicture, string>> {
  if (bytes.length > mostDrawingBytes)
    return failure(`the drawing has ${bytes.length.toLocaleString("en-GB")} bytes; ${mostDrawingBytes.toLocaleString("en-GB")} are the most`);
  const text = decoded(bytes);
  if (text === undefined) return failure("its characters are not UTF-8, or UTF-16 with a mark at its beginning");
  const safe = safeDrawing(text);
  if (!safe.ok) return safe;
  let pixels = 0;
  for (const inside of safe.value.pictures) {
    const size = await pixelsOf(Buffer.from(inside, "base64"));
    if (!size.ok) return failure(`of a picture inside the drawing, ${size.error}`);
    pixels += size.value.width * size.value.height;
  }
  if (pixels > mostPixels)
    return failure(`the pictures inside the drawing have ${pixels.toLocaleString("en-GB")} pixels; ${mostPixels.toLocaleString("en-GB")} are the most`);
  const { text: kept, width, height, leftOut } = safe.value;
  return success({
    picture: asPicture("image/svg+xml", Buffer.from(kept, "utf8"), width, height),
    leftOut: [...leftOut].map(([what, count]) => (count === 1 ? what : `${what} (${count} times)`)),
  });
}

/** Reads a picture of a plan, PNG, JPEG or SVG by what it holds and not by its name, and makes it safe to be shown; or says why it cannot be taken. */
export async function readPicture(bytes: Uint8Array): Promise<Result<ReadPicture, string>> {
  if (bytes.length === 0) return failure("the file is empty");
  if (bytes.length > mostPictureBytes)
    return failure(`the file has ${bytes.length.toLocaleString("en-GB")} bytes; ${mostPictureBytes.toLocaleString("en-GB")} are the most that are taken`);
  if (begins(bytes, 0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a)) return readPixels(bytes, "png");
  if (begins(bytes, 0xff, 0xd8, 0xff)) return readPixels(bytes, "jpeg");
  const start = decoded(bytes.subarray(0, bytes.length > 4096 ? 4096 : bytes.length)) ?? Buffer.from(bytes.subarray(0, 4096)).toString("latin1");
  if (/<(\w+:)?svg[\s>/]|<\?xml/.test(start)) return readDrawing(bytes);
  return failure("it is neither a PNG, nor a JPEG, nor an SVG drawing");
}
