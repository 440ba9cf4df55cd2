/** Something the caller can mend; the message says how. */
export class UsageError extends Error {}
