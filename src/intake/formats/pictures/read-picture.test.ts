import { describe, expect, test } from "@jest/globals";
import sharp from "sharp";
import { mostPictureBytes, readPicture } from "./read-picture";

const made = (width: number, height: number) => sharp({ create: { width, height, channels: 3, background: "#a0b0c0" } });
const whyNot = async (bytes: Uint8Array): Promise<string> => {
  const read = await readPicture(bytes);
  return read.ok ? "taken" : read.error;
};
const bytesOf = (text: string, encoding: BufferEncoding = "utf8"): Uint8Array => Buffer.from(text, encoding);
const drawing = '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 4 3"><script/><rect width="4" height="3"/></svg>';

describe("a picture of a plan", () => {
  test("is taken as PNG, JPEG or SVG by what it holds, with its size", async () => {
    for (const [bytes, mediaType, width, height] of [
      [await made(40, 30).png().toBuffer(), "image/png", 40, 30],
      [await made(40, 30).jpeg().toBuffer(), "image/jpeg", 40, 30],
      [bytesOf(drawing), "image/svg+xml", 2000, 1500],
      [bytesOf(`\ufeff<?xml version="1.0" encoding="UTF-16"?>${drawing}`, "utf16le"), "image/svg+xml", 2000, 1500],
    ] as const) {
      const read = await readPicture(bytes);
      expect(read.ok && read.value.picture).toMatchObject({ mediaType, width, height, sha256: expect.stringMatching(/^[0-9a-f]{64}$/) as unknown });
    }
    const read = await readPicture(bytesOf(drawing));
    expect(read.ok && read.value.leftOut).toEqual(["script"]);
  });

  test("is turned upright, and keeps nothing that is hidden in its file", async () => {
    // Orientation 6: the camera was turned by a quarter (Exif 2.3, tag 0x0112, from memory).
    const taken = await made(40, 30)
      .jpeg()
      .withExif({ IFD0: { Copyright: "whoever took it", Orientation: "6" } })
      .withMetadata({ orientation: 6 })
      .toBuffer();
    const hidden = Buffer.concat([taken, bytesOf("<script>hidden behind the end</script>")]);
    const read = await readPicture(hidden);
    expect(read.ok && [read.value.picture.width, read.value.picture.height]).toEqual([30, 40]);
    const kept = Buffer.from(read.ok ? read.value.picture.bytes : []).toString("latin1");
    expect(kept).not.toMatch(/hidden behind|whoever took/);
    expect((await sharp(read.ok ? read.value.picture.bytes : new Uint8Array()).metadata()).exif).toBeUndefined();
  });

  test("counts the pixels of all pictures inside a drawing together", async () => {
    const inside = (await made(6000, 5000).png({ compressionLevel: 9 }).toBuffer()).toString("base64");
    const image = `<image href="data:image/png;base64,${inside}"/>`;
    const of = (content: string) => whyNot(bytesOf(`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 1 1">${content}</svg>`));
    expect([await of(image), await of(image + image)]).toEqual(["taken", expect.stringMatching(/60,000,000 pixels/)]);
  });

  test("is refused by name where it is none, is cut off, or is too large", async () => {
    expect(await whyNot(new Uint8Array())).toBe("the file is empty");
    expect(await whyNot(bytesOf("%PDF-1.7"))).toBe("it is neither a PNG, nor a JPEG, nor an SVG drawing");
    expect(await whyNot(bytesOf("GIF89a"))).toMatch(/^it is neither/);
    expect(await whyNot(new Uint8Array(mostPictureBytes + 1))).toMatch(/8,388,609 bytes/);
    const png = await made(400, 300).png().toBuffer();
    expect(await whyNot(png.subarray(0, png.length / 2))).toMatch(/cut off|damaged/);
    expect(await whyNot(png.subarray(0, 12))).toMatch(/damaged/);
    expect(await whyNot(await made(9000, 6000).png({ compressionLevel: 9 }).toBuffer())).toMatch(/9000 × 6000 pixels/);
    expect(await whyNot(bytesOf("<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 1 1'>\u00e9</svg>", "latin1"))).toMatch(/not UTF-8/);
    expect(await whyNot(bytesOf(`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 1 1"><image href="data:image/png;base64,iVBORw0KGgo="/></svg>`))).toMatch(
      /^of a picture inside the drawing, its pixels cannot be read/,
    );
  });
});
