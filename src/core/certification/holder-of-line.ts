import type { HolderId } from "../facility/holder-id";
import type { Line } from "./line";

/** Whose line it is: a cardholder's, or that of a credential which nobody holds. */
export const holderOfLine = ({ cardholder, credential }: Pick<Line, "cardholder" | "credential">): HolderId =>
  cardholder === undefined ? { kind: "credential", id: credential ?? "" } : { kind: "cardholder", id: cardholder };
