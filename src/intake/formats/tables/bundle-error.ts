/** A bundle that cannot be opened, in words for a person. */
export class BundleError extends Error {}
