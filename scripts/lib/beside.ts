import { performance } from 'node:perf_hooks';
import { total } from '@tallystick/core/segments';

/** The heaviest that one request may ask, by name; each is answered, well or with a refusal in words. */
export function heavyRequests(gifts: readonly number[], letterId: number): Record<string, () => [string, unknown]> {
  const anything = total([], 1);
  const many = (parts: number) => ({
    kind: 'group',
    join: 'any',
    parts: Array.from({ length: parts }, () => anything),
  });
  return {
    'a segment of 60 conditions': () => [
      '/segments/count',
      { conditions: { kind: 'group', join: 'any', parts: [many(28), many(30)] } },
    ],
    'a card of 1.8 MB': () => [
      '/supporters/read-card',
      { text: `BEGIN:VCARD\n${'TEL;HOME:1\n'.repeat(170_000)}END:VCARD` },
    ],
    'a workbook of everyone': () => [
      '/supporters/export',
      { selection: { kind: 'list', filter: {}, except: [] }, as: 'xlsx' },
    ],
    'a proof of 1,000 letters': () => ['/thanks/proof', { letterId, giftIds: gifts }],
    'brackets 1.8 million deep': () => ['/supporters', '['.repeat(1_800_000)],
  };
}

/**
 * How long `list` takes while `heavy` is asked again and again for two seconds, and once at least: milliseconds of each
 * list that was answered meanwhile.
 */
export async function listsBeside(list: () => Promise<number>, heavy: () => Promise<unknown>): Promise<number[]> {
  const taken: number[] = [];
  let going = true;
  const lists = (async () => {
    while (going) {
      taken.push(await list());
      await new Promise((resolve) => setTimeout(resolve, 5));
    }
  })();
  // It is told below, when the heavy one has ended.
  lists.catch(() => undefined);
  const begun = performance.now();
  do await heavy();
  while (performance.now() - begun < 2_000);
  going = false;
  await lists;
  return taken;
}
