import type { MessagePort } from 'node:worker_threads';
import { Piscina } from 'piscina';
import { scriptOf } from './built.ts';
import { Problem } from './problem.ts';

/**
 * A piece of heavy work: the module whose `work` does it, and how many seconds it may take. It runs in a thread of its
 * own, so that nobody else waits for it, on what can be copied there and back.
 */
export interface HeavyWork<Given, Made> {
  readonly script: URL;
  readonly seconds: number;
  /** Never set: they carry the types. */
  readonly given?: Given;
  readonly made?: Made;
}
export const heavyWork = <Given, Made>(script: URL, seconds: number): HeavyWork<Given, Made> => ({ script, seconds });

const HEAP_MB = 1024;
/** So many pieces wait at most; who comes then is asked to come again. */
const MOST_WAITING = 50;

/** Threads are started when the first work comes, and end by themselves when none does. */
let pool: Piscina | null = null;
const threads = (): Piscina =>
  (pool ??= new Piscina({
    filename: new URL('./pool-task.mjs', import.meta.url).href,
    minThreads: 0,
    maxThreads: 2,
    maxQueue: MOST_WAITING,
    idleTimeout: 30_000,
    resourceLimits: { maxOldGenerationSizeMb: HEAP_MB },
  }));

/** Does the work in a thread, to which what is in `moved` goes and is here no longer. Throws a 413 where it takes longer than it may, a 503 where too much waits already. */
export async function doHeavy<Given, Made>(
  { script, seconds }: HeavyWork<Given, Made>,
  given: Given,
  moved: readonly MessagePort[] = [],
): Promise<Made> {
  try {
    const made: Made = await threads().run(
      { script: scriptOf(script), given },
      { signal: AbortSignal.timeout(seconds * 1000), transferList: [...moved] },
    );
    return made;
  } catch (error) {
    const { name = '', message = '', code = '' } = error as { name?: string; message?: string; code?: string };
    if (name === 'AbortError' || code === 'ERR_WORKER_OUT_OF_MEMORY')
      throw new Problem(
        413,
        'too-heavy',
        `This takes longer than the ${seconds} s that one request may, or more room than there is. Ask for less at once.`,
      );
    if (message.includes('Task queue is at limit'))
      throw new Problem(503, 'busy', 'Much is being drawn and read at the moment. Try again in a minute.');
    throw error;
  }
}
