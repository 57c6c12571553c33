import { Agent, get } from 'node:http';
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
 * They begin one after the other within the first pause; nobody's day begins on the same thousandth of a second. They
 * take answers packed, as browsers do, and leave them so: unpacking is the work of other machines.
 */
export async function work({ urls, headers, clients, times, pause }: Asking): Promise<number[]> {
  const agent = new Agent({ keepAlive: true, maxSockets: clients });
  const client = async (nth: number): Promise<number[]> => {
    await wait((nth * pause) / clients);
    const taken: number[] = [];
    for (let turn = 0; turn < times; turn++) {
      const begun = performance.now();
      await answered(urls[(nth + turn) % urls.length] ?? '', headers, agent);
      taken.push(performance.now() - begun);
      await wait(pause);
    }
    return taken;
  };
  try {
    return (await Promise.all(Array.from({ length: clients }, (_, nth) => client(nth)))).flat();
  } finally {
    agent.destroy();
  }
}

const answered = (url: string, headers: Asking['headers'], agent: Agent): Promise<void> =>
  new Promise((resolve, reject) => {
    get(url, { agent, headers: { ...headers, 'Accept-Encoding': 'gzip, deflate, br' } }, (response) => {
      if (response.statusCode !== 200) reject(new Error(`${url}: ${response.statusCode}`));
      response.on('error', reject).on('end', resolve).resume();
    }).on('error', reject);
  });
