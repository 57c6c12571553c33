/**
 * Gathers words and hands them on together: `soon` after the first, and never more often than `every`, however
 * steadily they come; the last is never forgotten. Times are in milliseconds.
 */
export function throttled(hand: (words: string[]) => void, soon: number, every: number) {
  const gathered = new Set<string>();
  let timer: ReturnType<typeof setTimeout> | undefined;
  let last = -Infinity;
  const run = (): void => {
    timer = undefined;
    last = performance.now();
    const words = [...gathered];
    gathered.clear();
    hand(words);
  };
  return {
    add(words: readonly string[]): void {
      for (const word of words) gathered.add(word);
      timer ??= setTimeout(run, Math.max(soon, last + every - performance.now()));
    },
    stop: () => clearTimeout(timer),
  };
}
