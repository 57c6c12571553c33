import { mkdirSync } from 'node:fs';
import { dirname } from 'node:path';
import { pino } from 'pino';
import type { Logger } from 'pino';
import { codeOf } from './problem.ts';

/**
 * What is noted of an error: what kind it is and where it came from. Never what it was about: an error of the database
 * carries the statement with its values, and those are people's.
 */
export function errorWords(error: unknown): Record<string, unknown> {
  if (!(error instanceof Error)) return { type: typeof error };
  const code = codeOf(error);
  // Of the database only the code is told; its words quote values.
  const ofDatabase = 'sql' in error || 'query' in error || 'sqlMessage' in error || 'sqlState' in error;
  const where = (error.stack ?? '').split('\n').filter((line) => line.startsWith('    at '));
  return {
    type: error.constructor.name,
    ...(code === '' ? {} : { code }),
    ...(ofDatabase ? {} : { message: error.message.slice(0, 500) }),
    stack: where.slice(0, 12).join('\n'),
  };
}

const FILE_SIZE = '10m';
const FILES_KEPT = 5;

/**
 * The log of the server, one JSON object a line: to a file that begins anew when it is large, with errors on the
 * console too; or to the console alone where no file is named.
 */
export function openLog(level: string, file: string | null): Logger {
  const options = { level, serializers: { err: errorWords } };
  if (file === null) return pino(options);
  mkdirSync(dirname(file), { recursive: true, mode: 0o700 });
  return pino(
    options,
    pino.transport({
      targets: [
        {
          target: 'pino-roll',
          level,
          options: { file, extension: '.log', size: FILE_SIZE, limit: { count: FILES_KEPT }, mkdir: true },
        },
        { target: 'pino/file', level: 'error', options: { destination: 2 } },
      ],
    }),
  );
}
