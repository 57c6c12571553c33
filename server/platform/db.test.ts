import { describe, expect, it } from 'vitest';
import { chunks, eachChunk } from './db.ts';

describe('many in slices', () => {
  it.each([
    [0, []],
    [1, [[0]]],
    [5, [[0, 1], [2, 3], [4]]],
  ])('of %i', (many, slices) => expect(chunks([...Array(many).keys()], 2)).toEqual(slices));

  it('are worked on in their order, while the next is read', async () => {
    const said: string[] = [];
    const read = (slice: number[]): Promise<number[]> => {
      said.push(`reads ${slice.join()}`);
      return Promise.resolve(slice);
    };
    await eachChunk([1, 2, 3, 4, 5], 2, read, (slice) => void said.push(`has ${slice.join()}`));
    expect(said).toEqual(['reads 1,2', 'reads 3,4', 'has 1,2', 'reads 5', 'has 3,4', 'has 5']);
  });

  it('end with the first that cannot be read, and nothing is worked on after it', async () => {
    const had: number[][] = [];
    const read = (slice: number[]): Promise<number[]> =>
      slice.includes(3) ? Promise.reject(new Error('gone')) : Promise.resolve(slice);
    const all = eachChunk([1, 2, 3, 4, 5], 1, read, (slice) => void had.push(slice));
    await expect(all).rejects.toThrow('gone');
    expect(had).toEqual([[1], [2]]);
  });

  it('of which the first fails while the next does too, is one error and no other', async () => {
    const read = (slice: number[]): Promise<never> => Promise.reject(new Error(`no ${slice.join()}`));
    await expect(eachChunk([1, 2], 1, read, () => undefined)).rejects.toThrow('no 1');
  });
});
