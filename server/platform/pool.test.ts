import { describe, expect, it } from 'vitest';
import { doHeavy, heavyWork } from './pool.ts';

const WHERE = new URL('../tests/work/where.work.ts', import.meta.url);
const where = (seconds: number) => heavyWork<'once' | 'for ever' | 'badly', number>(WHERE, seconds);

describe('heavy work', () => {
  it('runs in a thread of its own', async () => expect(await doHeavy(where(60), 'once')).toBeGreaterThan(0));

  it('is ended when it takes longer than it may, and the next goes on', async () => {
    await expect(doHeavy(where(1), 'for ever')).rejects.toMatchObject({ status: 413, code: 'too-heavy' });
    expect(await doHeavy(where(60), 'once')).toBeGreaterThan(0);
  });

  it('that fails says why', () => expect(doHeavy(where(60), 'badly')).rejects.toThrow('It went badly.'));
});
