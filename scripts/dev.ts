import { join } from 'node:path';
import { createServer } from 'vite';
import { main, readOptions } from './lib/options.ts';
import { ROOT } from './lib/processes.ts';
import { startStack } from './lib/stack.ts';

/* Everything as `npm start`, with the web app served by Vite and reloaded as it is edited. */
await main(async () => {
  const options = readOptions();
  const stack = await startStack({ ...options, port: options.port + 10 }, console.log, null);
  const vite = await createServer({
    root: join(ROOT, 'web'),
    server: {
      port: options.port,
      strictPort: true,
      host: '127.0.0.1',
      // The host stays the one that the browser asked, since the server holds a write's origin against it.
      proxy: Object.fromEntries(
        ['/api', '/unsubscribe', '/public.css'].map((path) => [path, { target: stack.url, changeOrigin: false }]),
      ),
    },
  });
  await vite.listen();
  console.log(
    `\nTallystick  http://127.0.0.1:${options.port} (reloads as you edit)\nMail room   ${stack.mailRoom}\nTill        ${stack.till || 'none'}\nPortal      ${stack.portal || 'none'}`,
  );
  // Vite ends the process as soon as it has closed; the database is to be stopped before.
  process.removeAllListeners('SIGTERM');
  const end = (): void =>
    void stack
      .stop()
      .then(() => vite.close())
      .finally(() => process.exit(0));
  process.on('SIGINT', end);
  process.on('SIGTERM', end);
});
