import { Worker, workerData } from 'node:worker_threads';
import type { ResourceLimits } from 'node:worker_threads';
import { scriptOf } from './built.ts';

/** Starts a module in a thread of its own, with so much room where that is said; it reads what it was given with `threadData`. */
export function startThread(script: URL, given: unknown, resourceLimits: ResourceLimits = {}): Worker {
  const workerData = { script: scriptOf(script), given };
  return new Worker(new URL('./thread-boot.mjs', import.meta.url), { workerData, resourceLimits });
}

/** What this thread was given when it was started. */
export function threadData<T>(): T {
  const { given }: { given: T } = workerData;
  return given;
}
