/** An entry of a directory: its line, its name, and by attribute its values; attributes are called as they are first. */
export interface DirectoryEntry {
  readonly line: number;
  readonly dn: string;
  readonly attributes: ReadonlyMap<string, readonly string[]>;
}

/** A record that cannot be read, or part of one. */
export interface LdifTrouble {
  readonly line: number;
  readonly attribute: string;
  readonly value: string;
  readonly reason: string;
}

export interface ReadLdif {
  readonly entries: readonly DirectoryEntry[];
  readonly troubles: readonly LdifTrouble[];
}

interface Line {
  readonly line: number;
  readonly text: string;
}

/** Lines unfolded: one that begins with a space goes on with the one before (RFC 2849, note 2). Comments go, with what folds onto them. */
function* unfolded(text: string): Generator<Line> {
  let open: { line: number; text: string } | undefined;
  let number = 0;
  for (const raw of text.replace(/^\ufeff/, "").split(/\r\n|\n|\r/)) {
    number++;
    if (raw.startsWith(" ") && open) {
      open.text += raw.slice(1);
      continue;
    }
    if (open && !open.text.startsWith("#")) yield open;
    open = { line: number, text: raw };
  }
  if (open && !open.text.startsWith("#")) yield open;
}

const attributeForm = /^([A-Za-z0-9.-]+(?:;[A-Za-z0-9-]+)*):(:|<)?\s*(.*)$/s;
/** What nobody has to see, let alone keep. */
const isSecret = (attribute: string): boolean => /password|pwd|secret/i.test(attribute);

function decodedBase64(text: string): string | undefined {
  if (!/^[A-Za-z0-9+/]*={0,2}$/.test(text) || text.length % 4 !== 0) return undefined;
  try {
    return new TextDecoder("utf-8", { fatal: true }).decode(Buffer.from(text, "base64"));
  } catch {
    return undefined;
  }
}

/**
 * Reads LDIF (RFC 2849): content records, and change records that add. A value that stands at an address is never fetched, one that is no text is left out,
 * and both are told; so is a record that deletes or changes.
 */
export function readLdif(text: string): ReadLdif {
  const entries: DirectoryEntry[] = [];
  const troubles: LdifTrouble[] = [];
  const spelled = new Map<string, string>();
  let record: Line[] = [];
  const finish = (): void => {
    const lines = record;
    record = [];
    const [first] = lines;
    if (!first) return;
    const attributes = new Map<string, string[]>();
    let dn: string | undefined;
    for (const { line, text: whole } of lines) {
      if (/^version:\s*\d+$/i.test(whole) && !dn) continue;
      const [, name = "", kind, value = ""] = attributeForm.exec(whole) ?? [];
      const tell = (reason: string): void => void troubles.push({ line, attribute: name, value: name === "" ? whole.slice(0, 80) : "", reason });
      if (name === "") {
        tell("expected an attribute, a colon and its value (RFC 2849)");
        continue;
      }
      const isName = name.toLowerCase() === "dn";
      if (kind === "<") {
        tell("its value stands at an address, which is not fetched; expected the value itself");
        continue;
      }
      const read = kind === ":" ? decodedBase64(value.replace(/\s/g, "")) : value;
      if (read === undefined) {
        if (isName) {
          tell("this name is no text in UTF-8; expected one");
          return;
        }
        tell("it is no text in UTF-8 and is not read");
        continue;
      }
      if (isName) dn = read;
      else if (name.toLowerCase() === "changetype") {
        if (read.trim().toLowerCase() === "add") continue;
        troubles.push({ line, attribute: name, value: read.slice(0, 80), reason: "this record changes or deletes; expected entries as they are" });
        return;
      } else if (name.toLowerCase() !== "control") {
        const spelling = spelled.get(name.toLowerCase()) ?? name;
        spelled.set(name.toLowerCase(), spelling);
        attributes.set(spelling, [...(attributes.get(spelling) ?? []), isSecret(name) ? "(not read)" : read]);
      }
    }
    if (dn !== undefined) entries.push({ line: first.line, dn, attributes });
    else if (attributes.size > 0) troubles.push({ line: first.line, attribute: "", value: "", reason: "this record has no name; expected a line dn: first" });
  };
  for (const line of unfolded(text))
    if (line.text.trim() === "") finish();
    else record.push(line);
  finish();
  return { entries, troubles };
}
