import { setFlagsFromString } from 'node:v8';
import { App } from './app.ts';

/*
 * Serves Tallystick over the database at DATABASE_URL until SIGTERM. The parent process that starts it reads one
 * line, `listening <url>`, from its standard output.
 */
// Left to itself the heap grows to several times what is in use before it is cleared; a quarter more is room enough.
setFlagsFromString('--heap-growing-percent=25');

const env = (name: string, otherwise: string): string => process.env[name] ?? otherwise;
const optional = (name: string): string | null => process.env[name] || null;

const app = await App.open({
  databaseUrl: env('DATABASE_URL', ''),
  till: process.env['TILL_URL'] ? { url: env('TILL_URL', ''), secret: env('TILL_SECRET', '') } : null,
  portal: process.env['PORTAL_URL'] ? { url: env('PORTAL_URL', ''), secret: env('PORTAL_SECRET', '') } : null,
  smtpUrl: env('SMTP_URL', 'smtp://127.0.0.1:25'),
  today: optional('TALLYSTICK_TODAY'),
  demo: process.env['TALLYSTICK_DEMO'] === '1',
  mailRoom: optional('MAIL_ROOM_URL'),
  webFolder: optional('TALLYSTICK_WEB'),
  publicUrl: optional('PUBLIC_URL'),
  hosts: env('TALLYSTICK_HOSTS', '')
    .split(',')
    .map((name) => name.trim().toLowerCase())
    .filter(Boolean),
  trustProxy: Number(env('TRUST_PROXY', '0')),
  logLevel: env('LOG_LEVEL', 'info'),
  logFile: optional('LOG_FILE'),
});
try {
  console.log(`listening ${await app.listen(Number(env('PORT', '4460')))}`);
} catch (error) {
  const taken = (error as NodeJS.ErrnoException).code === 'EADDRINUSE';
  console.error(taken ? `Port ${env('PORT', '4460')} is in use. Choose another with --port N.` : error);
  process.exit(taken ? 3 : 1);
}

let stopping = false;
const stop = (): void => {
  if (stopping) return;
  stopping = true;
  void app.close().finally(() => process.exit(0));
};
process.on('SIGTERM', stop);
process.on('SIGINT', stop);
