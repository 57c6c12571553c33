import { openMailRoom } from './index.ts';

/* Runs the mail room until SIGTERM; prints `listening <inbox url> <smtp port>` once it takes mail. */
const [folder = '.', smtp = '0', http = '0'] = process.argv.slice(2);
const room = await openMailRoom(folder, Number(smtp), Number(http));
console.log(`listening ${room.url} ${room.smtpPort}`);
const stop = (): void => void room.close().finally(() => process.exit(0));
process.on('SIGTERM', stop);
process.on('SIGINT', stop);
