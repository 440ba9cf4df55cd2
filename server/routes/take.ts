import { z } from 'zod';
import { ApiError } from '../errors.ts';

export const idSchema = z.uuid('The id is not one of ours');

/** Reads a request's part by a schema, or answers with the field that is wrong. */
export function take<T>(schema: z.ZodType<T>, value: unknown): T {
  const parsed = schema.safeParse(value);
  if (parsed.success) return parsed.data;
  const [issue] = parsed.error.issues;
  const field = issue.path.join('.');
  throw new ApiError(
    'bad request',
    field && !issue.message.startsWith(field) ? `${field}: ${issue.message}` : issue.message,
    { field },
  );
}
