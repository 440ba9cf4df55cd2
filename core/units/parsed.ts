/** The outcome of reading an entry: the value in the program's own unit, or what is wrong in the maker's words. */
export type Parsed<T> = { ok: true; value: T } | { ok: false; message: string };

export const read = <T>(value: T): Parsed<T> => ({ ok: true, value });
export const unread = (message: string): { ok: false; message: string } => ({ ok: false, message });
