import type { NextFunction, Request, Response } from 'express';
import { ConnectionError } from 'sequelize';
import type { Problem } from '../core/plan/index.ts';

/** Everything that can go wrong for a caller, and the answer's status. */
const STATUS = {
  'bad plan': 400,
  'bad request': 400,
  'not let in': 401,
  'not found': 404,
  conflict: 409,
  'too large': 413,
  'wrong type': 415,
  forbidden: 403,
  'too much': 422,
  'too often': 429,
  busy: 503,
  away: 503,
  'disk full': 507,
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

/** What PostgreSQL says when it is shut down, starting, or out of reach (its error codes, appendix A of its manual). */
const DATABASE_AWAY = /^(57P0[1-3]|08.{3})$/;
const DISK_FULL = '53100';

/** A database that cannot be reached, or has no room; nothing for any other error. */
function ofDatabase(error: unknown): ApiError | null {
  const { original, code: own } = error as { original?: { code?: string }; code?: string };
  // Of a statement, or of the connection itself before any.
  const code = original?.code ?? own ?? '';
  if (code === DISK_FULL || code === 'ENOSPC')
    return new ApiError(
      'disk full',
      'The disk is full: nothing was changed. Make room on it, then try again.',
    );
  if (error instanceof ConnectionError || DATABASE_AWAY.test(code) || BROKEN.test((error as Error).message))
    return new ApiError(
      'away',
      'The database does not answer just now; nothing was changed. Try again in a moment.',
    );
  return null;
}

/** What the client says of a connection that ended under it. */
const BROKEN = /^(Connection terminated|Client has encountered a connection error|read ECONNRESET)/;

function fromUnknown(error: unknown): ApiError {
  if (error instanceof ApiError) return error;
  const database = ofDatabase(error);
  if (database) return database;
  if (error instanceof URIError)
    return new ApiError('bad request', 'The address cannot be read: it holds a stray %.');
  const { type, message } = error as { type?: string; message?: string };
  if (type === 'entity.too.large')
    return new ApiError('too large', 'The body is larger than 2 MB: a plan is far smaller than that.');
  if (type === 'entity.parse.failed') return new ApiError('bad request', 'The body is not JSON.');
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
