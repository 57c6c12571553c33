import type { z } from 'zod';

/**
 * What a column holds as JSON, read without trust: where it is not what it should be (written by an older version, or
 * by hand), `otherwise` stands for it, so that one odd row takes no list away.
 */
export function stored<T>(schema: z.ZodType<T>, json: string, otherwise: T): T {
  try {
    const read = schema.safeParse(JSON.parse(json));
    return read.success ? read.data : otherwise;
  } catch {
    // No JSON, or nested beyond what can be walked through.
    return otherwise;
  }
}
