import { parentPort } from 'node:worker_threads';
import { threadData } from '../platform/thread.ts';
import { parseFile } from './parse.ts';

try {
  parentPort?.postMessage({ ok: parseFile(threadData<Uint8Array>()) });
} catch (error) {
  parentPort?.postMessage({ failed: error instanceof Error ? error.message : String(error) });
}
