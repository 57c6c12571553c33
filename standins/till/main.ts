import { openTill } from './index.ts';

/* Runs the till until SIGTERM; prints `listening <url>` once it takes charges. */
const [folder = '.', secret = '', hook = '', port = '0'] = process.argv.slice(2);
const till = await openTill({ folder, secret, hook: hook === '' ? null : hook, port: Number(port) });
console.log(`listening ${till.url}`);
const stop = (): void => void till.close().finally(() => process.exit(0));
process.on('SIGTERM', stop);
process.on('SIGINT', stop);
