import { openPortal } from './index.ts';

/* Runs the giving portal until SIGTERM; prints `listening <url>` once it answers. */
const [folder = '.', port = '0'] = process.argv.slice(2);
// By the environment, which other users of the machine cannot read.
const portal = await openPortal({ folder, secret: process.env['PORTAL_SECRET'] ?? '', port: Number(port) });
console.log(`listening ${portal.url}`);
const stop = (): void => void portal.close().finally(() => process.exit(0));
process.on('SIGTERM', stop);
process.on('SIGINT', stop);
