declare const brand: unique symbol;

/** A value of type T that only the module naming the brand hands out; keeps ids and units apart at compile time. */
export type Brand<T, Name extends string> = T & { readonly [brand]: Name };
