// The first module of every worker thread: runs the script that it was started for, which is TypeScript in tests.
import { workerData } from 'node:worker_threads';

if (workerData.script.endsWith('.ts')) (await import('tsx/esm/api')).register();
await import(workerData.script);
