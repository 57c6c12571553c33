import { openTill } from './index.ts';

/* Runs the till until SIGTERM; prints `listening <url>` once it takes charges. */
const [folder = '.', hook = '', port = '0'] = process.argv.slice(2);
// By the environment, which other users of the machine cannot read.
const secret = process.env['TILL_SECRET'] ?? '';
const till = await openTill({ folder, secret, hook: hook === '' ? null : hook, port: Number(port) });
console.log(`listening ${till.url}`);
const stop = (): void => void till.close().finally(() => process.exit(0));
process.on('SIGTERM', stop);
process.on('SIGINT', stop);
