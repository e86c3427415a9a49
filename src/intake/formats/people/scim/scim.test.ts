import { describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import { scimPatch } from "scim-patch";
import { answered, etagOf, resourceTypes, schemaAnswers, serviceProviderConfig, sortValue, whole } from "./answers";
import { enterpriseSchema, groupSchema, userSchema } from "./attributes";
import { readFilter } from "./filter";
import { patchResource, patchSchema } from "./patch";
import type { JsonObject } from "./resource";
import { readResource } from "./resource";
import { ScimError } from "./scim-error";

// The examples are those of RFC 7643, 8.2 to 8.4, and RFC 7644, 3.4.2.2 and 3.5.2, written down from memory.
const barbara = {
  schemas: [userSchema, enterpriseSchema],
  id: "2819c223-7f76-453a-919d-413861904646",
  externalId: "701984",
  userName: "bjensen@example.com",
  name: {
    formatted: "Ms. Barbara J Jensen, III",
    familyName: "Jensen",
    givenName: "Barbara",
    middleName: "Jane",
    honorificPrefix: "Ms.",
    honorificSuffix: "III",
  },
  displayName: "Babs Jensen",
  nickName: "Babs",
  profileUrl: "https://login.example.com/bjensen",
  emails: [
    { value: "bjensen@example.com", type: "work", primary: true },
    { value: "babs@jensen.org", type: "home" },
  ],
  addresses: [{ streetAddress: "100 Universal City Plaza", locality: "Hollywood", type: "work", primary: true }],
  phoneNumbers: [{ value: "555-555-5555", type: "work" }],
  userType: "Employee",
  title: "Tour Guide",
  active: true,
  password: "t1meMa$heen",
  [enterpriseSchema]: {
    employeeNumber: "701984",
    costCenter: "4130",
    organization: "Universal Studios",
    division: "Theme Park",
    department: "Tour Operations",
    manager: { value: "26118915-6090-4610-87e4-49d8ca9f808d", $ref: "../Users/26118915-6090-4610-87e4-49d8ca9f808d", displayName: "John Smith" },
  },
  meta: { resourceType: "User", created: "2010-01-23T04:56:22Z", lastModified: "2011-05-13T04:42:34Z", version: 'W/"3694e05e9dff591"' },
};
const babs = "2819c223-7f76-453a-919d-413861904646";
const mandy = "902c246b-6245-4190-8e05-00816be7344a";
const tourGuides = {
  schemas: [groupSchema],
  id: "e9e30dba-f08f-4109-8486-d5c6a331660a",
  displayName: "Tour Guides",
  members: [
    { value: babs, $ref: `https://example.com/v2/Users/${babs}`, display: "Babs Jensen" },
    { value: mandy, $ref: `https://example.com/v2/Users/${mandy}`, display: "Mandy Pepperidge" },
  ],
};

const base = "https://nomade.example/scim/v2";
const refusal = (run: () => unknown): string => {
  try {
    run();
  } catch (error) {
    if (error instanceof ScimError) return error.scimType ?? String(error.status);
    throw error;
  }
  return "done";
};
const patched = (kind: "User" | "Group", before: JsonObject, ...Operations: object[]): JsonObject =>
  patchResource(kind, "the-id", before, { schemas: [patchSchema], Operations });

const user = readResource("User", barbara);
const group = readResource("Group", tourGuides);
const kept = { id: babs, kind: "User" as const, body: user, version: 3, createdAt: "2010-01-23T04:56:22Z", changedAt: "2011-05-13T04:42:34Z" };

describe("a resource", () => {
  it("is kept as far as the service’s schemas know it, without a password and without what is the service’s own", () => {
    expect(user).toEqual({
      externalId: "701984",
      userName: "bjensen@example.com",
      name: barbara.name,
      displayName: "Babs Jensen",
      emails: barbara.emails,
      userType: "Employee",
      title: "Tour Guide",
      active: true,
      [enterpriseSchema]: {
        employeeNumber: "701984",
        costCenter: "4130",
        organization: "Universal Studios",
        division: "Theme Park",
        department: "Tour Operations",
        manager: { value: "26118915-6090-4610-87e4-49d8ca9f808d" },
      },
    });
    expect(group).toEqual({ displayName: "Tour Guides", members: [{ value: babs }, { value: mandy }] });
  });

  it("is told apart without regard to capitals of its attributes’ names, and takes truth that is written as a text", () => {
    expect(
      readResource("User", { USERNAME: "b", Active: "False", EMAILS: { Value: "b@example.com" }, [enterpriseSchema.toLowerCase()]: { Department: "Tours" } }),
    ).toEqual({
      userName: "b",
      active: false,
      emails: [{ value: "b@example.com" }],
      [enterpriseSchema]: { department: "Tours" },
    });
  });

  it("is refused by name where it is none, all faults together", () => {
    expect(refusal(() => readResource("User", "bjensen"))).toBe("invalidSyntax");
    expect(refusal(() => readResource("User", { schemas: [groupSchema], userName: "b" }))).toBe("invalidSyntax");
    expect(refusal(() => readResource("User", { userName: "" }))).toBe("invalidValue");
    expect(refusal(() => readResource("User", JSON.parse('{"userName":"b","__proto__":{"active":true}}')))).toBe("invalidSyntax");
    expect(() => readResource("User", { userName: 7, displayName: ["a", "b"], active: "perhaps" })).toThrow(
      /userName.*displayName.*active|active.*userName.*displayName/s,
    );
  });

  it("has one primary address, the one that was named last", () => {
    const second = [...barbara.emails, { value: "new@example.com", primary: true }];
    expect(readResource("User", { userName: "b", emails: second }, user).emails).toEqual([
      { value: "bjensen@example.com", type: "work", primary: false },
      { value: "babs@jensen.org", type: "home" },
      { value: "new@example.com", primary: true },
    ]);
  });

  it("is answered with its id, its schemas and what is asked for", () => {
    const all = answered(kept, base);
    expect(all.schemas).toEqual([userSchema, enterpriseSchema]);
    expect(all.meta).toEqual({
      resourceType: "User",
      created: kept.createdAt,
      lastModified: kept.changedAt,
      location: `${base}/Users/${babs}`,
      version: etagOf(3),
    });
    expect(answered(kept, base, { only: ["userName", "emails.value", "name"], without: undefined })).toEqual({
      schemas: [userSchema, enterpriseSchema],
      id: babs,
      userName: "bjensen@example.com",
      name: barbara.name,
      emails: [{ value: "bjensen@example.com" }, { value: "babs@jensen.org" }],
    });
    const { emails: _emails, name, ...rest } = all;
    const { givenName: _given, ...restOfName } = name as JsonObject;
    expect(answered(kept, base, { only: undefined, without: ["emails", "NAME.givenName", "id"] })).toEqual({ ...rest, name: restOfName });
  });
});

describe("a filter", () => {
  const fits = (filter: string, resource = kept): boolean => readFilter("User", filter).fits(whole(resource, base));
  it.each([
    ['userName eq "bjensen@example.com"', true],
    ['USERNAME Eq "BJensen@Example.COM"', true],
    ['name.familyName co "ense"', true],
    ['name.familyName co "O\'Malley"', false],
    ['userName sw "J"', false],
    [`${userSchema}:userName sw "B"`, true],
    ["title pr", true],
    ["nickName pr and title pr", "invalidFilter"],
    ['meta.lastModified gt "2011-05-13T04:42:34Z"', false],
    ['meta.lastModified ge "2011-05-13T04:42:34Z"', true],
    ['meta.lastModified lt "2011-05-13T06:42:35+02:00"', true],
    ['meta.lastModified le "2011-05-13T04:42:34Z"', true],
    ['title pr and userType eq "Employee"', true],
    ['title pr or userType eq "Intern"', true],
    [`schemas eq "${enterpriseSchema}"`, true],
    ['userType eq "Employee" and (emails co "example.com" or emails.value co "example.org")', true],
    ['userType ne "Employee" and not (emails co "example.com" or emails.value co "example.org")', false],
    ['userType eq "Employee" and (emails.type eq "work")', true],
    ['userType eq "Employee" and emails[type eq "work" and value co "@example.com"]', true],
    ['emails[type eq "home" and value co "@example.com"]', false],
    [`${enterpriseSchema}:department eq "tour operations"`, true],
    [`${enterpriseSchema}:employeeNumber eq "701984"`, true],
    [`${enterpriseSchema}:manager.value pr`, true],
    ["active eq true", true],
    ["active ne true", false],
    ['externalId eq "701984"', true],
    ["displayName eq null", false],
    ["not (displayName pr)", false],
    ['userName eq "bjensen', "invalidFilter"],
    ["userName", "invalidFilter"],
    ['shoeSize eq "44"', "invalidFilter"],
    ['active gt "x"', "invalidFilter"],
    ['name eq "x"', "invalidFilter"],
    ['meta.created gt "yesterday"', "invalidFilter"],
    ['emails[type eq "work"].value eq "x"', "invalidFilter"],
    [`${"(".repeat(60)}title pr${")".repeat(60)}`, "invalidFilter"],
    [`userName eq "${"x".repeat(5000)}"`, "invalidFilter"],
  ])("%s", (filter, outcome) => {
    if (typeof outcome === "string") expect(refusal(() => fits(filter))).toBe(outcome);
    else expect(fits(filter)).toBe(outcome);
  });

  it("finds just the resource that has a text, whatever stands in it", () => {
    fc.assert(
      fc.property(fc.string({ unit: "grapheme", minLength: 1, maxLength: 12 }), fc.string({ unit: "grapheme", minLength: 1, maxLength: 12 }), (one, other) => {
        const with_ = (userName: string) => ({ ...kept, body: { ...user, userName } });
        const asked = `userName eq ${JSON.stringify(one)}`;
        const outcome = refusal(() => readFilter("User", asked));
        // Control characters, and a backslash at the end, are refused by name; everything else is found, and nothing else.
        if ([...one].some((sign) => sign < " ") || one.endsWith("\\")) return expect(["invalidFilter", "done"]).toContain(outcome);
        expect(outcome).toBe("done");
        expect(fits(asked, with_(one))).toBe(true);
        if (one.toLowerCase() !== other.toLowerCase()) expect(fits(asked, with_(other))).toBe(false);
      }),
    );
  });

  it("says when it asks for one value of one attribute alone", () => {
    expect(readFilter("User", 'USERNAME eq "x"').only).toEqual({ attribute: "userName", value: "x" });
    expect(readFilter("User", 'externalId eq "x"').only).toEqual({ attribute: "externalId", value: "x" });
    expect(readFilter("User", 'userName eq "x" or userName eq "y"').only).toBeUndefined();
  });
});

describe("a change", () => {
  it("adds members, each once, as RFC 7644 has it (3.5.2.1)", () => {
    const joel = "0e1e4a5b-0000-4000-8000-000000000001";
    expect(patched("Group", group, { op: "add", path: "members", value: [{ display: "Babs Jensen", $ref: "x", value: babs }, { value: joel }] })).toEqual({
      displayName: "Tour Guides",
      members: [{ value: babs }, { value: mandy }, { value: joel }],
    });
    expect(patched("User", user, { op: "add", value: { emails: [{ value: "babs@other.example", type: "home" }], nickname: "Babs" } }).emails).toEqual([
      ...barbara.emails,
      { value: "babs@other.example", type: "home" },
    ]);
  });

  it("removes members, all, by a filter, or as values (3.5.2.2)", () => {
    expect(patched("Group", group, { op: "remove", path: "members" })).toEqual({ displayName: "Tour Guides" });
    expect(patched("Group", group, { op: "Remove", path: `members[value eq "${babs}"]` }).members).toEqual([{ value: mandy }]);
    expect(patched("Group", group, { op: "remove", path: "members", value: [{ value: babs, display: "whoever" }] }).members).toEqual([{ value: mandy }]);
    expect(patched("User", user, { op: "remove", path: 'emails[type eq "work" and value ew "example.com"]' }).emails).toEqual([barbara.emails[1]]);
    expect(
      patched("Group", group, { op: "remove", path: `members[value eq "${mandy}"]` }, { op: "add", path: "members", value: [{ value: "new" }] }).members,
    ).toEqual([{ value: babs }, { value: "new" }]);
  });

  it("replaces what is there, the parts that are named of what has parts, and says where nothing is (3.5.2.3)", () => {
    expect(patched("Group", group, { op: "replace", path: "members", value: [{ value: "one" }] }).members).toEqual([{ value: "one" }]);
    expect(patched("User", user, { op: "replace", path: "name", value: { familyName: "Smith" } }).name).toEqual({ ...barbara.name, familyName: "Smith" });
    expect(patched("User", user, { op: "Replace", path: 'emails[type eq "WORK"].value', value: "b@new.example" }).emails).toEqual([
      { value: "b@new.example", type: "work", primary: true },
      barbara.emails[1],
    ]);
    expect(refusal(() => patched("User", user, { op: "replace", path: 'emails[type eq "other"].value', value: "x" }))).toBe("noTarget");
    expect(patched("User", user, { op: "add", path: 'emails[type eq "other"].value', value: "x@y.example" }).emails).toEqual([
      ...barbara.emails,
      { type: "other", value: "x@y.example" },
    ]);
    expect(patched("User", user, { op: "replace", path: `${enterpriseSchema}:department`, value: "Costumes" })[enterpriseSchema]).toEqual({
      ...(user[enterpriseSchema] as JsonObject),
      department: "Costumes",
    });
    expect(
      patched("User", user, { op: "replace", value: { [enterpriseSchema]: { department: "Costumes" }, "name.givenName": "B", active: "False" } }),
    ).toMatchObject({
      name: { givenName: "B", familyName: "Jensen" },
      active: false,
      [enterpriseSchema]: { department: "Costumes", employeeNumber: "701984" },
    });
    expect(patched("User", user, { op: "add", path: `${enterpriseSchema}:manager`, value: mandy })[enterpriseSchema]).toMatchObject({
      manager: { value: mandy },
    });
    expect(enterpriseSchema in patched("User", user, { op: "remove", path: enterpriseSchema })).toBe(false);
  });

  it("is refused by name where it cannot be made, and nothing of it is", () => {
    const refused = (...operations: object[]) => refusal(() => patched("User", user, ...operations));
    expect(refused({ op: "replace", path: "id", value: "x" })).toBe("mutability");
    expect(refused({ op: "add", path: "meta.version", value: "x" })).toBe("mutability");
    expect(refused({ op: "replace", path: "shoeSize", value: "44" })).toBe("invalidPath");
    expect(refused({ op: "replace", path: 'addresses[type eq "work"].streetAddress', value: "1010 Broadway Ave" })).toBe("invalidPath");
    expect(refused({ op: "remove" })).toBe("noTarget");
    expect(refused({ op: "replace", path: "emails]value[", value: "x" })).toBe("invalidPath");
    expect(refused({ op: "replace", path: 'name[familyName eq "x"].givenName', value: "x" })).toBe("invalidPath");
    expect(refused({ op: "replace", path: 'emails[typo eq "work"].value', value: "x" })).toBe("invalidFilter");
    expect(refused({ op: "replace", path: "userName", value: "" })).toBe("invalidValue");
    expect(refused({ op: "remove", path: "userName" })).toBe("invalidValue");
    expect(refused({ op: "move", path: "userName", value: "x" })).toBe("invalidSyntax");
    expect(refused()).toBe("invalidSyntax");
    expect(refusal(() => patchResource("User", "the-id", user, { Operations: [{ op: "replace", path: "title", value: "x" }] }))).toBe("invalidSyntax");
    expect(refused({ op: "add", path: "emails", value: JSON.parse('[{"__proto__":{"x":1},"value":"x"}]') as unknown })).toBe("invalidSyntax");
    expect(({} as { x?: unknown }).x).toBeUndefined();
  });

  it("of the plain kind comes out as another library has it", () => {
    // scim-patch: attributes by their own names, without values that several attributes would be looked for by.
    const texts = fc.constantFrom("a", "B", "c d", "é");
    const operation = fc.oneof(
      fc.record({
        op: fc.constantFrom("add", "replace"),
        path: fc.constantFrom("title", "displayName", "name.givenName", `${enterpriseSchema}:division`),
        value: texts,
      }),
      fc.record({ op: fc.constant("remove"), path: fc.constantFrom("title", "displayName", "name.givenName", "emails", 'emails[type eq "home"]') }),
      fc.record({
        op: fc.constantFrom("add", "replace"),
        path: fc.constant("emails"),
        value: fc.uniqueArray(texts, { minLength: 1 }).map((all) => all.map((value) => ({ value }))),
      }),
      fc.record({ op: fc.constantFrom("add", "replace"), path: fc.constant("name"), value: fc.record({ familyName: texts }) }),
    );
    fc.assert(
      fc.property(fc.array(operation, { minLength: 1, maxLength: 5 }), (operations) => {
        const theirs = scimPatch(structuredClone({ ...user, schemas: [], meta: {} }) as never, JSON.parse(JSON.stringify(operations)) as never, {
          mutateDocument: false,
          treatMissingAsAdd: true,
        }) as unknown as JsonObject;
        const { schemas: _schemas, meta: _meta, ...rest } = theirs;
        expect(patched("User", user, ...operations)).toEqual(readResource("User", rest));
      }),
    );
  });

  it("never fails but by name, and never keeps what is no resource", () => {
    const anyPath = fc.oneof(
      fc.constantFrom(
        "emails",
        "emails.value",
        'emails[type eq "work"]',
        "members",
        "name",
        "id",
        "",
        enterpriseSchema,
        `${enterpriseSchema}:manager.value`,
        "a.b.c",
        "[",
        "]",
      ),
      fc.string({ maxLength: 20 }),
    );
    const anyOperation = fc.record(
      { op: fc.constantFrom("add", "remove", "replace", "Add", "x"), path: anyPath, value: fc.jsonValue() },
      { requiredKeys: ["op"] },
    );
    fc.assert(
      fc.property(fc.array(anyOperation, { maxLength: 4 }), (operations) => {
        try {
          const after = patched("User", user, ...operations);
          expect(readResource("User", after)).toEqual(after);
        } catch (error) {
          expect(error).toBeInstanceOf(ScimError);
        }
      }),
    );
  });
});

describe("the service", () => {
  it("says what it can and what its resources have (RFC 7643, 5 to 7)", () => {
    expect(serviceProviderConfig(base)).toMatchObject({
      patch: { supported: true },
      bulk: { supported: false },
      filter: { supported: true, maxResults: 1000 },
    });
    expect(resourceTypes(base).map(({ id, endpoint, schema }) => [id, endpoint, schema])).toEqual([
      ["User", "/Users", userSchema],
      ["Group", "/Groups", groupSchema],
    ]);
    expect(schemaAnswers(base).map(({ id }) => id)).toEqual([userSchema, enterpriseSchema, groupSchema]);
    const [first] = schemaAnswers(base);
    expect((first?.attributes as readonly JsonObject[]).find(({ name }) => name === "userName")).toEqual({
      name: "userName",
      type: "string",
      description: "What the sender knows the person by; told apart without regard to capitals.",
      multiValued: false,
      required: true,
      caseExact: false,
      mutability: "readWrite",
      returned: "default",
      uniqueness: "server",
    });
  });

  it("orders by an attribute, by the primary one of several values", () => {
    expect(sortValue("User", "name.familyName")?.(user)).toBe("jensen");
    expect(sortValue("User", "emails")?.(user)).toBe("bjensen@example.com");
    expect(sortValue("User", "shoeSize")).toBeUndefined();
    expect(sortValue("User", "name")).toBeUndefined();
  });
});
