import type { Readable } from "node:stream";
import iconv from "iconv-lite";

/** What a file is, by what is in it. */
export type ContentKind = "zip" | "gzip" | "workbook" | "facility" | "people-list" | "json-lines" | "calendar" | "directory" | "text";

const bytesLookedAt = 16 * 1024;

async function beginningOf(open: () => Readable | Promise<Readable>): Promise<Buffer> {
  const stream = await open();
  const chunks: Buffer[] = [];
  let length = 0;
  try {
    for await (const chunk of stream as AsyncIterable<Buffer>) {
      chunks.push(chunk);
      length += chunk.length;
      if (length >= bytesLookedAt) break;
    }
  } finally {
    stream.destroy();
  }
  return Buffer.concat(chunks).subarray(0, bytesLookedAt);
}

const startsWith = (bytes: Buffer, ...magic: readonly number[]): boolean => magic.every((byte, at) => bytes[at] === byte);

/**
 * Recognises a file from its beginning, whatever it is called: archives and workbooks by their first bytes (APPNOTE 4.3, MS-CFB 2.2, RFC 1952, from memory),
 * texts by their first words (RFC 5545, RFC 2849, RFC 7644).
 */
export async function contentKindOf(open: () => Readable | Promise<Readable>): Promise<ContentKind> {
  const bytes = await beginningOf(open);
  if (startsWith(bytes, 0x1f, 0x8b)) return "gzip";
  if (startsWith(bytes, 0xd0, 0xcf, 0x11, 0xe0)) return "workbook";
  if (startsWith(bytes, 0x50, 0x4b)) {
    const names = bytes.toString("latin1");
    return names.includes("[Content_Types].xml") || /(^|[^\w])xl\//.test(names) || names.includes("mimetypeapplication/vnd.oasis.opendocument.spreadsheet")
      ? "workbook"
      : "zip";
  }
  const encoding = startsWith(bytes, 0xff, 0xfe) ? "utf-16le" : startsWith(bytes, 0xfe, 0xff) ? "utf-16be" : "utf-8";
  const text = iconv
    .decode(bytes, encoding)
    .replace(/^\ufeff/, "")
    .trimStart();
  if (/^BEGIN:VCALENDAR/i.test(text)) return "calendar";
  if (/^(#[^\n]*\n\s*)*(version:\s*1\s*\n|dn::? )/i.test(text)) return "directory";
  if (text.startsWith("{") || text.startsWith("[")) {
    if (/"urn:ietf:params:scim:api:messages:2\.0:ListResponse"/.test(text)) return "people-list";
    if (/^\{\s*"(?:[^"\\]|\\.)*"/.test(text) && /^[^\n]*\}\s*\r?\n\s*\{/.test(text)) return "json-lines";
    if (text.startsWith("[") && !/^\[\s*[{\]]/.test(text)) return "text";
    return /^\{[^\n]*"at"\s*:/.test(text) && !/"nomade\.facility\/1"/.test(text) ? "json-lines" : "facility";
  }
  return "text";
}
