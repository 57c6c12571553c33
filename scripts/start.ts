import { buildWeb } from './lib/build.ts';
import { main, readOptions } from './lib/options.ts';
import { startStack } from './lib/stack.ts';

await main(async () => {
  const options = readOptions();
  let stop = async (): Promise<void> => undefined;
  let asked = false;
  const end = (): void => {
    if (asked) return;
    asked = true;
    console.log('\nStopping …');
    void stop().then(() => process.exit(0));
  };
  process.on('SIGINT', end);
  process.on('SIGTERM', end);
  await buildWeb(console.log);
  const stack = await startStack(options, console.log);
  stop = stack.stop;
  if (asked) return stop();
  console.log(
    `\nTallystick  ${stack.url}\nMail room   ${stack.mailRoom}\nTill        ${stack.till || 'none'}\nPortal      ${stack.portal || 'none'}\nData        ${options.data}\n\nCtrl-C stops it; the next start finds everything as it was.`,
  );
});
