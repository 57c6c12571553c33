import { threadId } from 'node:worker_threads';

/** Says in which thread it runs; or never ends, or fails, when told so. */
export function work(how: 'once' | 'for ever' | 'badly'): number {
  if (how === 'badly') throw new Error('It went badly.');
  for (let turn = 0; how === 'for ever'; turn++) if (turn < 0) break;
  return threadId;
}
