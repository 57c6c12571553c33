// The one module of the pool's threads: learns TypeScript once, then does whatever piece of work it is handed.
import { register } from 'tsx/esm/api';

register();

export default async function work({ script, given }) {
  const { work: run } = await import(script);
  return run(given);
}
