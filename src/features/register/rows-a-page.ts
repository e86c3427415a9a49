/** How many rows of a list are fetched at a time. */
export const rowsAPage = 100;
