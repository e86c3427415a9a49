/** Names of the standard’s schemas and messages (RFC 7643, RFC 7644). */
export const userSchema = "urn:ietf:params:scim:schemas:core:2.0:User";
export const groupSchema = "urn:ietf:params:scim:schemas:core:2.0:Group";
export const enterpriseSchema = "urn:ietf:params:scim:schemas:extension:enterprise:2.0:User";

export type ResourceKind = "User" | "Group";

/** An attribute as its schema describes it (RFC 7643, 7). What is not said is `false`, `readWrite` and `default`. */
export interface Attribute {
  readonly name: string;
  readonly type: "string" | "boolean" | "dateTime" | "reference" | "complex";
  readonly description: string;
  readonly multiValued?: true;
  readonly required?: true;
  readonly caseExact?: true;
  readonly mutability?: "readOnly";
  readonly returned?: "always";
  readonly uniqueness?: "server";
  readonly canonicalValues?: readonly string[];
  readonly referenceTypes?: readonly string[];
  readonly subAttributes?: readonly Attribute[];
}

const text = (name: string, description: string, more: Partial<Attribute> = {}): Attribute => ({ name, type: "string", description, ...more });

/** What every resource has beside its schema’s own (RFC 7643, 3.1). */
export const commonAttributes: readonly Attribute[] = [
  {
    name: "schemas",
    type: "reference",
    description: "The schemas by which it is written.",
    multiValued: true,
    caseExact: true,
    mutability: "readOnly",
    returned: "always",
    referenceTypes: ["uri"],
  },
  text("id", "Given by Nomade; it never changes.", { caseExact: true, mutability: "readOnly", returned: "always", uniqueness: "server" }),
  text("externalId", "The sender’s own id.", { caseExact: true }),
  {
    name: "meta",
    type: "complex",
    description: "When it came and when it was changed.",
    mutability: "readOnly",
    subAttributes: [
      text("resourceType", "User or Group.", { caseExact: true, mutability: "readOnly" }),
      { name: "created", type: "dateTime", description: "When it came.", mutability: "readOnly" },
      { name: "lastModified", type: "dateTime", description: "When it was changed last.", mutability: "readOnly" },
      { name: "location", type: "reference", description: "Its address.", caseExact: true, mutability: "readOnly", referenceTypes: ["uri"] },
      text("version", "Its version, for If-Match.", { caseExact: true, mutability: "readOnly" }),
    ],
  },
];

const userAttributes: readonly Attribute[] = [
  text("userName", "What the sender knows the person by; told apart without regard to capitals.", { required: true, uniqueness: "server" }),
  {
    name: "name",
    type: "complex",
    description: "The parts of the person’s name.",
    subAttributes: [
      text("formatted", "The whole name, as it is written."),
      text("familyName", "Family name."),
      text("givenName", "Given name."),
      text("middleName", "Middle names."),
      text("honorificPrefix", "What stands before the name."),
      text("honorificSuffix", "What stands behind the name."),
    ],
  },
  text("displayName", "The name to show."),
  text("title", "What the person is called at work."),
  text("userType", "Employee, contractor, visitor, …"),
  { name: "active", type: "boolean", description: "Whether the person is at work; absent, yes." },
  {
    name: "emails",
    type: "complex",
    multiValued: true,
    description: "Mail addresses.",
    subAttributes: [
      text("value", "The address."),
      text("display", "The address to show."),
      text("type", "What it is for.", { canonicalValues: ["work", "home", "other"] }),
      { name: "primary", type: "boolean", description: "Whether it is the one to use." },
    ],
  },
];

const enterpriseAttributes: readonly Attribute[] = [
  text("employeeNumber", "Staff number: what a person is known by in the register.", { caseExact: true }),
  text("costCenter", "Cost centre."),
  text("organization", "Organisation; of contractors their company."),
  text("division", "Division."),
  text("department", "Department, by its name."),
  {
    name: "manager",
    type: "complex",
    description: "The person’s manager.",
    subAttributes: [
      text("value", "The id of the manager, as Nomade gave it.", { caseExact: true }),
      { name: "$ref", type: "reference", description: "The manager’s address.", caseExact: true, referenceTypes: ["User"] },
      text("displayName", "The manager’s name.", { mutability: "readOnly" }),
    ],
  },
];

const groupAttributes: readonly Attribute[] = [
  text("displayName", "The name of the group.", { required: true }),
  {
    name: "members",
    type: "complex",
    multiValued: true,
    description: "Who is in the group: people, or groups of people.",
    subAttributes: [
      text("value", "The id of the member, as Nomade gave it.", { caseExact: true }),
      { name: "$ref", type: "reference", description: "The member’s address.", caseExact: true, referenceTypes: ["User", "Group"] },
      text("type", "User or Group.", { canonicalValues: ["User", "Group"] }),
      text("display", "The member’s name.", { mutability: "readOnly" }),
    ],
  },
];

export interface Schema {
  readonly id: string;
  readonly name: string;
  readonly description: string;
  readonly attributes: readonly Attribute[];
}

export const schemas: readonly Schema[] = [
  { id: userSchema, name: "User", description: "A person", attributes: userAttributes },
  { id: enterpriseSchema, name: "EnterpriseUser", description: "A person at work", attributes: enterpriseAttributes },
  { id: groupSchema, name: "Group", description: "A group of people", attributes: groupAttributes },
];

/** The attributes of a kind of resource; those of an extension stand under its name, as one attribute. */
export const attributesOf: Readonly<Record<ResourceKind, readonly Attribute[]>> = {
  User: [
    ...commonAttributes,
    ...userAttributes,
    { name: enterpriseSchema, type: "complex", description: "A person at work", subAttributes: enterpriseAttributes },
  ],
  Group: [...commonAttributes, ...groupAttributes],
};

export const schemaOf: Readonly<Record<ResourceKind, string>> = { User: userSchema, Group: groupSchema };

/** The attribute of a name among others; names are told apart without regard to capitals (RFC 7643, 2.1). */
export function attributeNamed(attributes: readonly Attribute[], name: string): Attribute | undefined {
  const folded = name.toLowerCase();
  return attributes.find((attribute) => attribute.name.toLowerCase() === folded);
}

/**
 * The attributes that a path leads through, such as `emails.value`, or one with the name of a schema before it; undefined where there is none such.
 * (RFC 7644, 3.10.)
 */
export function attributesOnPath(kind: ResourceKind, path: string): readonly Attribute[] | undefined {
  const own = attributesOf[kind];
  const folded = path.toLowerCase();
  for (const schema of [schemaOf[kind], ...(kind === "User" ? [enterpriseSchema] : [])]) {
    const extension = attributeNamed(own, schema);
    if (folded === schema.toLowerCase()) return extension && [extension];
    if (!folded.startsWith(`${schema.toLowerCase()}:`)) continue;
    const rest = namesOnPath(extension?.subAttributes ?? own, path.slice(schema.length + 1));
    return rest && [...(extension ? [extension] : []), ...rest];
  }
  return namesOnPath(own, path);
}

function namesOnPath(attributes: readonly Attribute[], path: string): readonly Attribute[] | undefined {
  const [first = "", ...rest] = path.split(".");
  const attribute = attributeNamed(attributes, first);
  if (!attribute || rest.length > 1) return undefined;
  if (rest.length === 0) return [attribute];
  const inner = attributeNamed(attribute.subAttributes ?? [], rest[0] ?? "");
  return inner && [attribute, inner];
}
