// The one module of the pool's threads: does whatever piece of work it is handed, which is TypeScript in tests.
let taught = false;

export default async function work({ script, given }) {
  if (!taught && script.endsWith('.ts')) (await import('tsx/esm/api')).register();
  taught = true;
  const { work: run } = await import(script);
  return run(given);
}
