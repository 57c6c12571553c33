import { describe, expect, it } from 'vitest';
import { openTestApp } from '../tests/support.ts';
import { errorWords } from './log.ts';

describe('what is noted of an error', () => {
  it('is its kind, its code and where it came from, and of the database nothing that was asked or said', async () => {
    const test = await openTestApp();
    const error: unknown = await test.sql
      .run(`INSERT INTO fund (code, name, closed) VALUES ('GEN', ?, 0)`, ['Ana Secret'])
      .catch((failed: unknown) => failed);
    await test.close();
    const noted = errorWords(error);
    expect(noted).toMatchObject({ code: 'ER_DUP_ENTRY', stack: expect.stringContaining('    at ') });
    expect(JSON.stringify(noted)).not.toMatch(/Secret|GEN|INSERT/);
  });

  it('of ours is what it says', () =>
    expect(errorWords(new TypeError('no such thing'))).toMatchObject({ type: 'TypeError', message: 'no such thing' }));

  it.each(['a text', null, 7])('%j is no error and says nothing', (thrown) =>
    expect(errorWords(thrown)).toEqual({ type: typeof thrown }),
  );
});
