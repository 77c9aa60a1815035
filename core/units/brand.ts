declare const brand: unique symbol;

/** Marks a number with its unit, so that two units cannot be passed for one another. */
export type Brand<Base, Name extends string> = Base & { readonly [brand]: Name };
