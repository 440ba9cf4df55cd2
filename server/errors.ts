import type { NextFunction, Request, Response } from 'express';
import type { Problem } from '../core/plan/index.ts';

/** Everything that can go wrong for a caller, and the answer's status. */
const STATUS = {
  'bad plan': 400,
  'bad request': 400,
  'not found': 404,
  conflict: 409,
  'too large': 413,
  'wrong type': 415,
  forbidden: 403,
  'too much': 422,
  busy: 503,
  internal: 500,
} as const;

export type ErrorCode = keyof typeof STATUS;

/** An answer other than success: a message the maker can act on, and what goes with it. */
export class ApiError extends Error {
  readonly code: ErrorCode;
  readonly more: Record<string, unknown>;
  constructor(code: ErrorCode, message: string, more: Record<string, unknown> = {}) {
    super(message);
    this.code = code;
    this.more = more;
  }
}

export const badPlan = (problems: Problem[]): ApiError =>
  new ApiError('bad plan', problems.map((p) => (p.path ? `${p.path}: ${p.message}` : p.message)).join('\n'), {
    problems,
  });

function fromUnknown(error: unknown): ApiError {
  if (error instanceof ApiError) return error;
  const { type, message } = error as { type?: string; message?: string };
  if (type === 'entity.too.large')
    return new ApiError('too large', 'The body is larger than 2 MB: a plan is far smaller than that.');
  if (type === 'entity.parse.failed') return new ApiError('bad request', `The body is not JSON: ${message}`);
  if (type === 'encoding.unsupported' || type === 'charset.unsupported')
    return new ApiError('wrong type', `The body cannot be read: ${message}`);
  if (type?.startsWith('request.') || type?.startsWith('entity.'))
    return new ApiError('bad request', `The body cannot be read: ${message}`);
  return new ApiError(
    'internal',
    'Something went wrong on the server; nothing was changed. The log says more.',
  );
}

/** The last handler: every error leaves here, as JSON. */
export function answerError(error: unknown, request: Request, response: Response, next: NextFunction): void {
  if (response.headersSent) return next(error);
  // Whoever asked has left: there is nobody to tell.
  if (response.destroyed) return;
  const known = fromUnknown(error);
  if (known.code === 'internal') request.log.error({ err: error }, 'unexpected');
  response
    .status(STATUS[known.code])
    .json({ error: { code: known.code, message: known.message }, ...known.more });
}
