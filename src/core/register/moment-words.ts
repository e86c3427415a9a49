/** The date of a moment as it is written: a date stands for itself, of an instant the date of its own offset. */
export const dateOfMoment = (moment: string): string => moment.slice(0, 10);
