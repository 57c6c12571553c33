/* Figures of the benches: each beside a baseline of the same run, and beside its goal. */

interface Line {
  work: string;
  figure: string;
  baseline: string;
  ratio: string;
  goal: string;
  met: boolean;
}
export const lines: Line[] = [];

export const median = (values: readonly number[]): number =>
  values.toSorted((a, b) => a - b)[Math.floor(values.length / 2)] ?? 0;
export const p95 = (values: readonly number[]): number =>
  values.toSorted((a, b) => a - b)[Math.min(values.length - 1, Math.floor(values.length * 0.95))] ?? 0;
export const show = (milliseconds: number): string =>
  milliseconds >= 1000
    ? `${(milliseconds / 1000).toFixed(2)} s`
    : `${milliseconds.toFixed(milliseconds < 10 ? 2 : 1)} ms`;

/** How long something takes, in milliseconds: the median of so many times. */
export async function timed(times: number, work: () => unknown): Promise<number> {
  const taken: number[] = [];
  for (let run = 0; run < times; run++) {
    const begun = performance.now();
    await work();
    taken.push(performance.now() - begun);
  }
  return median(taken);
}

/** A figure against a baseline, of which it may be so many times as much. */
export function report(work: string, ours: number, baseline: number, most: number): void {
  const ratio = ours / baseline;
  lines.push({
    work,
    figure: show(ours),
    baseline: show(baseline),
    ratio: `${ratio.toFixed(2)}x`,
    goal: `at most ${most}x`,
    met: ratio <= most,
  });
}

/** How much faster something is than a baseline, which is to be so many times slower. */
export function reportFaster(work: string, ours: number, baseline: number, least: number): void {
  lines.push({
    ...{ work, figure: show(ours), baseline: show(baseline), ratio: `${(baseline / ours).toFixed(0)}x faster` },
    ...{ goal: `at least ${least}x faster`, met: baseline / ours >= least },
  });
}

/** What is to be done at all. */
export function reportDone(work: string, done: boolean): void {
  lines.push({ work, figure: done ? 'done' : 'not done', baseline: '-', ratio: '-', goal: 'done', met: done });
}

/** A figure that is to stay under so many milliseconds. */
export function reportUnder(work: string, taken: number, most: number): void {
  lines.push({
    ...{ work, figure: show(taken), baseline: '-', ratio: '-' },
    ...{ goal: `under ${show(most)}`, met: taken < most },
  });
}

/** Prints every figure, and how many goals are missed. */
export function tell(): void {
  console.table(
    Object.fromEntries(
      lines.map(({ work, figure, baseline, ratio, goal, met }) => [
        work,
        { figure, baseline, ratio, goal, met: met ? 'yes' : 'NO' },
      ]),
    ),
  );
  const missed = lines.filter((line) => !line.met).length;
  console.log(missed === 0 ? 'Every goal is met.' : `${missed} of ${lines.length} goals are missed.`);
}
