import { describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import { readBy, suggested, textFile } from "~/tests/exports/read-export";
import { facilityDraft } from "~/tests/builders";
import { readFacility } from "../facility/read-facility";
import { tableOfObjects, tableOfScimList } from "../people/listed-objects";
import { readLdif } from "./read-ldif";

const plain = (text: string) => readLdif(text).entries.map(({ dn, attributes }) => [dn, Object.fromEntries(attributes)] as const);

describe("LDIF", () => {
  it("is read as the examples of RFC 2849 are (from memory of its section on examples)", () => {
    // Example 1: two entries, an attribute with several values.
    const first = [
      "version: 1",
      "dn: cn=Barbara Jensen, ou=Product Development, dc=airius, dc=com",
      "objectclass: top",
      "objectclass: person",
      "cn: Barbara Jensen",
      "cn: Barbara J Jensen",
      "sn: Jensen",
      "telephonenumber: +1 408 555 1212",
      "description: A big sailing fan.",
      "",
      "dn: cn=Bjorn Jensen, ou=Accounting, dc=airius, dc=com",
      "objectclass: top",
      "cn: Bjorn Jensen",
      "sn: Jensen",
    ].join("\n");
    expect(plain(first)).toEqual([
      [
        "cn=Barbara Jensen, ou=Product Development, dc=airius, dc=com",
        {
          objectclass: ["top", "person"],
          cn: ["Barbara Jensen", "Barbara J Jensen"],
          sn: ["Jensen"],
          telephonenumber: ["+1 408 555 1212"],
          description: ["A big sailing fan."],
        },
      ],
      ["cn=Bjorn Jensen, ou=Accounting, dc=airius, dc=com", { objectclass: ["top"], cn: ["Bjorn Jensen"], sn: ["Jensen"] }],
    ]);
    // Example 2: a folded value. Example 3: one in Base64.
    expect(plain("dn: cn=a\ndescription:Babs is a big sailing fan, and travels extensively in sea\n rch of perfect sailing conditions.\n")[0]?.[1]).toEqual({
      description: ["Babs is a big sailing fan, and travels extensively in search of perfect sailing conditions."],
    });
    expect(plain("dn: cn=a\ndescription:: V2hhdCBhIGNhcmVmdWwgcmVhZGVyIHlvdSBhcmUhICBUaGlzIHZhbHVlIGlzIGJhc2UtNjQtZW5jb2RlZA==\n")[0]?.[1]).toEqual({
      description: ["What a careful reader you are!  This value is base-64-encoded"],
    });
  });

  it("fetches no address, keeps no password, and tells what it does not read", () => {
    const { entries, troubles } = readLdif(
      [
        "dn: cn=a",
        "jpegphoto:< file:///etc/passwd",
        "userPassword: 48151623",
        "photo:: /9j/4A==",
        "",
        "dn: cn=b",
        "changetype: delete",
        "",
        "# a comment",
        "  that goes on",
        "",
        "cn: nameless",
      ].join("\n"),
    );
    expect(entries.map(({ dn, attributes }) => [dn, [...attributes]])).toEqual([["cn=a", [["userPassword", ["(not read)"]]]]]);
    expect(troubles.map(({ line, attribute }) => [line, attribute])).toEqual([
      [2, "jpegphoto"],
      [4, "photo"],
      [7, "changetype"],
      [12, ""],
    ]);
  });

  it("reads back what was written, folded or in Base64, whatever the values, and never fails on anything else", () => {
    const value = fc.string({ minLength: 1, unit: "grapheme" }).filter((text) => text.trim() === text);
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.constantFrom("cn", "sn", "mail", "description"), value), { minLength: 1, maxLength: 6 }),
        fc.nat({ max: 5 }),
        (pairs, fold) => {
          const safe = (text: string): boolean => /^[\x21-\x39\x3b\x3d-\x7e][\x20-\x7e]*$/.test(text);
          const folded = (line: string): string => (fold === 0 ? line : line.replace(new RegExp(`(.{${20 + fold}})`, "g"), "$1\n "));
          const lines = pairs.map(([name, text]) => folded(safe(text) ? `${name}: ${text}` : `${name}:: ${Buffer.from(text).toString("base64")}`));
          const read = Object.fromEntries(readLdif(["dn: cn=x", ...lines].join("\n")).entries[0]?.attributes ?? []);
          const expected: Record<string, string[]> = {};
          for (const [name, text] of pairs) (expected[name] ??= []).push(text);
          expect(read).toEqual(expected);
        },
      ),
    );
    fc.assert(
      fc.property(fc.oneof(fc.string(), fc.string({ unit: fc.constantFrom(..."dn: cn=a\n#:<v =/") })), (text) => void readLdif(text)),
      { numRuns: 500 },
    );
  });

  it("makes people, their departments and managers", async () => {
    const text = [
      "dn: cn=Iris Almondfeld,ou=people,dc=orchard",
      "displayName: Iris Almondfeld",
      "employeeNumber: 1001",
      "mail: iris@orchard.example",
      "department: Press House",
      "",
      "dn: cn=Nora Mosstrand,ou=people,dc=orchard",
      "displayName: Nora Mosstrand",
      "employeeNumber: 1002",
      "department: Press House",
      "manager: cn=Iris Almondfeld,ou=people,dc=orchard",
      "memberOf: cn=Day crew,ou=groups,dc=orchard",
      "memberOf: cn=Key holders,ou=groups,dc=orchard",
    ].join("\n");
    const { entries } = readLdif(text);
    const table = tableOfObjects(
      "people.ldif",
      entries.map(({ line, dn, attributes }) => ({ line, values: new Map([["dn", [dn]], ...attributes]) })),
    );
    const chunks: Buffer[] = [];
    for await (const chunk of (await table.open()) as AsyncIterable<Buffer>) chunks.push(chunk);
    const read = readFacility(JSON.stringify(facilityDraft()));
    const present = read.ok ? read.value.facility : undefined;
    const seen = await suggested({ name: "people.csv", bytes: Buffer.concat(chunks) }, present);
    const [one] = seen.tables;
    if (!one) throw new Error("no table");
    const profile = { ...seen, tables: [{ ...one, aside: ["dn"] }] };
    const { checked, refused } = await readBy([textFile("people.csv", Buffer.concat(chunks))], profile, present);
    expect(refused).toEqual([]);
    expect(checked?.facility.cardholders.filter(({ staffNumber }) => staffNumber !== undefined)).toEqual([
      { id: "1001", name: "Iris Almondfeld", status: "active", staffNumber: "1001", email: "iris@orchard.example", department: "press-house" },
      { id: "1002", name: "Nora Mosstrand", status: "active", staffNumber: "1002", department: "press-house", manager: "1001" },
    ]);
    expect(checked?.facility.memberships.map(({ group }) => group)).toEqual(expect.arrayContaining(["day-crew", "key-holders"]));
  });
});

describe("a SCIM list", () => {
  it("is a table of its resources", async () => {
    // RFC 7643, section 8.3, in part.
    const list = {
      schemas: ["urn:ietf:params:scim:api:messages:2.0:ListResponse"],
      totalResults: 1,
      Resources: [
        {
          id: "2819c223-7f76-453a-919d-413861904646",
          userName: "bjensen@example.com",
          name: { familyName: "Jensen", givenName: "Barbara" },
          emails: [
            { value: "bjensen@example.com", type: "work" },
            { value: "babs@jensen.org", type: "home" },
          ],
          "urn:ietf:params:scim:schemas:extension:enterprise:2.0:User": { employeeNumber: "701984", department: "Tour Operations" },
        },
      ],
    };
    const table = tableOfScimList("people.json", JSON.stringify(list));
    let text = "";
    for await (const chunk of (await table?.open()) as AsyncIterable<Buffer>) text += chunk.toString();
    expect(text.split("\r\n")[0]).toBe("id,userName,name.familyName,name.givenName,emails.value,emails.type,employeeNumber,department");
    expect(text).toContain('"bjensen@example.com\nbabs@jensen.org"');
    expect(tableOfScimList("x", "{}")).toBeUndefined();
  });
});
