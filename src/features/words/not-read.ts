/** What every answer says of a snapshot of which rows are missing; empty where all were read. */
export const notRead = ({ leftOut }: { readonly leftOut: number }): string =>
  leftOut === 0 ? "" : `, ${leftOut.toLocaleString("en-GB")} ${leftOut === 1 ? "row" : "rows"} not read`;
