/** A number of ours as it stands in an address; undefined for anything else. */
export const numberInPath = (text: string): number | undefined => (/^[1-9]\d{0,9}$/.test(text) ? Number(text) : undefined);
