declare const brand: unique symbol;

/** A value of type T that only the module naming the brand hands out; keeps ids and units apart at compile time. */
export type Brand<T, Name extends string> = T & { readonly [brand]: Name };

declare const counted: unique symbol;

/**
 * A whole number that counts or points at one kind of thing. A plain number, as it comes out of a typed array, may be taken for one; that of another
 * kind may not, which is how a position is kept apart from a row and a row from a timeline.
 */
export type NumberOf<Kind extends string> = number & { readonly [counted]?: Kind };
