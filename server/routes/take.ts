import { z } from 'zod';
import { ApiError } from '../errors.ts';

export const idSchema = z.uuid('The id is not one of ours');

/** Which part of a long list is asked for: at most so many at a time. */
export const pageOf = (most: number) => ({
  offset: z.coerce.number({ error: 'offset must be a whole number' }).int().min(0).max(1e6).default(0),
  limit: z.coerce
    .number({ error: 'limit must be a whole number' })
    .int()
    .min(1)
    .max(most, `limit may be at most ${most}`)
    .default(most),
});

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
