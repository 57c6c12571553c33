/** An error that a person can act on; it becomes the API's one error shape. */
export class Problem extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    message: string,
    readonly extra: { fields?: Record<string, string>; details?: unknown } = {},
  ) {
    super(message);
  }
}

export const notFound = (what: string): Problem =>
  new Problem(404, 'not-found', `${what} does not exist, or was removed.`);

const LOST = new Set([
  'ECONNREFUSED',
  'ECONNRESET',
  'EPIPE',
  'ENOENT',
  'PROTOCOL_CONNECTION_LOST',
  'ER_SERVER_SHUTDOWN',
  'ETIMEDOUT',
]);

export function codeOf(error: unknown): string {
  return typeof error === 'object' && error !== null && 'code' in error ? String(error.code) : '';
}

/** Whether an error means that the database cannot be reached at the moment. */
export function isDatabaseGone(error: unknown): boolean {
  const message = error instanceof Error ? error.message : '';
  return LOST.has(codeOf(error)) || /closed state|Connection lost|Pool is closed/.test(message);
}

const GAVE_WAY = new Set(['ER_LOCK_DEADLOCK', 'ER_CHECKREAD']);
/** Whether an error means that the database took back a transaction because of another one at the same moment. */
export const gaveWay = (error: unknown): boolean => GAVE_WAY.has(codeOf(error));

/** The refusal of a name that another has: in which field, and who has it. */
export const nameTaken = (field: string, message: string): Problem =>
  new Problem(409, 'name-taken', message, { fields: { [field]: message } });
