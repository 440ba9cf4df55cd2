type Content = Record<string, unknown>;

/**
 * How a plan file of each older version becomes the next. A step that has landed is never changed.
 * 1 → 2: kiln programs, free numbers and the shop's press, forge, kiln and handles came; all may be left out.
 * 2 → 3: how a section flows may be `usual`, which was called `ideal`.
 * 3 → 4: records of what came, and how close the shop measures; both may be left out.
 * 4 → 5: lines of an instruction are ticked by their marks, and a record may say how long was worked at it.
 */
const STEPS: Readonly<Record<number, (content: Content) => Content>> = {
  1: (content) => ({ ...content, version: 2 }),
  2: (content) => ({ ...withParameters(content, usualForIdeal), version: 3 }),
  3: (content) => ({ ...content, version: 4 }),
  4: (content) => ({ ...content, version: 5 }),
};

const usualForIdeal = (parameters: Content): Content =>
  parameters.reckoned === 'ideal' ? { ...parameters, reckoned: 'usual' } : parameters;

const isContent = (value: unknown): value is Content =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/** Every step's parameters changed; what is not a plan stays as it is, to be judged by the schema. */
function withParameters(content: Content, change: (parameters: Content) => Content): Content {
  const each = (list: unknown, of: (item: Content) => Content): unknown =>
    Array.isArray(list) ? list.map((item: unknown) => (isContent(item) ? of(item) : item)) : list;
  const lanes = each(content.lanes, (lane) => ({
    ...lane,
    steps: each(lane.steps, (step) =>
      isContent(step.parameters) ? { ...step, parameters: change(step.parameters) } : step,
    ),
  }));
  return { ...content, lanes };
}

/** A plan file of an older version brought to the newest; anything else comes back as it is, to be judged by the schema. */
export function migrated(content: unknown, newest: number): unknown {
  if (!isContent(content)) return content;
  let now = content;
  while (typeof now.version === 'number' && now.version < newest && STEPS[now.version])
    now = STEPS[now.version](now);
  return now;
}
