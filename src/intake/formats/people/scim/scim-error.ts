/** Why a request is refused, in the standard’s words (RFC 7644, 3.12). */
export type ScimErrorType =
  "invalidFilter" | "tooMany" | "uniqueness" | "mutability" | "invalidSyntax" | "invalidPath" | "noTarget" | "invalidValue" | "sensitive";

/** A request that cannot be answered: its status, its kind, and what was expected. */
export class ScimError extends Error {
  constructor(
    readonly status: number,
    message: string,
    readonly scimType?: ScimErrorType,
  ) {
    super(message);
  }
}

export const errorSchema = "urn:ietf:params:scim:api:messages:2.0:Error";

/** The body that tells of it. */
export const errorBody = ({ status, scimType, message }: ScimError): object => ({
  schemas: [errorSchema],
  status: String(status),
  ...(scimType && { scimType }),
  detail: message,
});
