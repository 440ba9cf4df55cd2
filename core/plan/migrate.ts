type Content = Record<string, unknown>;

/**
 * How a plan file of each older version becomes the next. A step that has landed is never changed.
 * 1 → 2: kiln programs, free numbers and the shop's press, forge, kiln and handles came; all may be left out.
 */
const STEPS: Readonly<Record<number, (content: Content) => Content>> = {
  1: (content) => ({ ...content, version: 2 }),
};

/** A plan file of an older version brought to the newest; anything else comes back as it is, to be judged by the schema. */
export function migrated(content: unknown, newest: number): unknown {
  if (typeof content !== 'object' || content === null || Array.isArray(content)) return content;
  let now = content as Content;
  while (typeof now.version === 'number' && now.version < newest && STEPS[now.version])
    now = STEPS[now.version](now);
  return now;
}
