import { performance } from 'node:perf_hooks';
import { setTimeout as wait } from 'node:timers/promises';

/** What is asked, in turn, by how many clients, how often each, with how long a pause between. */
export interface Asking {
  urls: readonly string[];
  headers: Readonly<Record<string, string>>;
  clients: number;
  times: number;
  /** Milliseconds. */
  pause: number;
}

/**
 * Clients who ask a server again and again, away from its own thread, as browsers are: the milliseconds of every answer.
 * They begin one after the other within the first pause; nobody's day begins on the same thousandth of a second.
 */
export async function work({ urls, headers, clients, times, pause }: Asking): Promise<number[]> {
  const client = async (nth: number): Promise<number[]> => {
    await wait((nth * pause) / clients);
    const taken: number[] = [];
    for (let turn = 0; turn < times; turn++) {
      const begun = performance.now();
      const response = await fetch(urls[(nth + turn) % urls.length] ?? '', { headers });
      await response.arrayBuffer();
      if (!response.ok) throw new Error(`${response.url}: ${response.status}`);
      taken.push(performance.now() - begun);
      await wait(pause);
    }
    return taken;
  };
  return (await Promise.all(Array.from({ length: clients }, (_, nth) => client(nth)))).flat();
}
