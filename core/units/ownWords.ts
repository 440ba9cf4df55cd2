import { z } from 'zod';

const KINDS: Readonly<Record<string, string>> = {
  string: 'text',
  number: 'a number',
  int: 'a whole number',
  boolean: 'true or false',
  array: 'a list',
  tuple: 'a list',
  object: 'a group of fields',
  record: 'a group of fields',
  date: 'a date',
};

function kindOf(value: unknown): string {
  if (value === null || value === undefined) return 'nothing';
  if (Array.isArray(value)) return 'a list';
  if (typeof value === 'number' && !Number.isFinite(value)) return 'no number at all';
  return KINDS[typeof value] ?? 'something else';
}

const listed = (values: readonly unknown[]): string =>
  values.length === 1 ? `“${String(values[0])}”` : `one of: ${values.map(String).join(', ')}`;

const PARTS: Readonly<Record<string, string>> = { string: 'letters', array: 'entries' };

function sized(word: string, bound: unknown, origin: string): string {
  const parts = PARTS[origin];
  return parts ? `must have ${word} ${String(bound)} ${parts}` : `must be ${word} ${String(bound)}`;
}

/** What is wrong with a value, in our words, where its schema has none of its own; it stands after the field's name. */
function ownWords(issue: z.core.$ZodRawIssue): string {
  switch (issue.code) {
    case 'invalid_type':
      return `must be ${KINDS[issue.expected] ?? 'of another kind'}, not ${kindOf(issue.input)}`;
    case 'too_big':
      return sized('at most', issue.maximum, issue.origin);
    case 'too_small':
      return sized(issue.inclusive === false ? 'more than' : 'at least', issue.minimum, issue.origin);
    case 'invalid_value':
      return `must be ${listed(issue.values)}`;
    case 'invalid_union': {
      const { options } = issue as { options?: readonly unknown[] };
      if (options?.length) return `must be ${listed(options)}`;
      const words = (issue.errors ?? []).map(([first]) => first?.message).filter(Boolean);
      return [...new Set(words)].join(', or ') || 'is none of what may stand here';
    }
    case 'unrecognized_keys':
      return `${issue.keys.map((key) => `“${key}”`).join(', ')} is not known here; leave it out`;
    case 'invalid_key':
      return issue.issues[0]?.message ?? 'has a name that may not stand here';
    case 'not_multiple_of':
      return `must be a multiple of ${String(issue.divisor)}`;
    default:
      return 'is not written as it must be';
  }
}

z.config({ customError: ownWords });
