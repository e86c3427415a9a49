import type { Services } from "../services";

/** The present date of UTC, `YYYY-MM-DD`: until the end of it a waiver of that date holds. */
export const todayOf = ({ now }: Pick<Services, "now">): string => now().slice(0, 10);
