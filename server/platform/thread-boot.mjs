// The first module of every worker thread: teaches it TypeScript, then runs the script that it was started for.
import { register } from 'tsx/esm/api';
import { workerData } from 'node:worker_threads';

register();
await import(workerData.script);
