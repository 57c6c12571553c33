import { Worker, workerData } from 'node:worker_threads';
import { scriptOf } from './built.ts';

/** Starts a module in a thread of its own; it reads what it was given with `threadData`. */
export function startThread(script: URL, given: unknown): Worker {
  return new Worker(new URL('./thread-boot.mjs', import.meta.url), { workerData: { script: scriptOf(script), given } });
}

/** What this thread was given when it was started. */
export function threadData<T>(): T {
  const { given }: { given: T } = workerData;
  return given;
}
