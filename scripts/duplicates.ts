import { performance } from 'node:perf_hooks';
import { ALIKE, AlikeIndex, groupsOf, weightsOf } from '@tallystick/core/duplicates';
import { makeDoubles } from './lib/doubles.ts';
import { median, p95, show } from './lib/figures.ts';

/* How well, and how fast, doubles are found among made records of which it is known who is who. */

const [many = 200_000, seed = 1] = process.argv.slice(2).map(Number).filter(Number.isFinite);
const AT_ONCE = 2_000;

const { records, truth } = makeDoubles(many, 0.08, seed);
const of = (id: number): number => truth[id - 1]?.of ?? id;

const loading = performance.now();
const index = new AlikeIndex();
for (const record of records) index.put(record);
const searching = performance.now();
index.begin();
const learned = performance.now();
while (!index.advance(AT_ONCE));
const searched = performance.now();
const pairs = [...index.pairs()];
const groups = groupsOf(
  pairs,
  () => false,
  (one, other) => index.chance(one, other),
);
const grouped = performance.now();

const all = (many * (many - 1)) / 2;
console.log(`${many.toLocaleString('en-US')} records, 8 % of them doubled, seed ${seed}, from a chance of ${ALIKE} on`);
console.log(
  `loaded in ${show(searching - loading)}, learned in ${show(learned - searching)}, searched in ${show(searched - learned)}, grouped in ${show(grouped - searched)}`,
);
console.log(
  `pairs compared: ${index.compared.toLocaleString('en-US')}, ${((index.compared / all) * 100).toFixed(4)} % of all`,
);

// Every pair within a group counts as found.
let right = 0;
let wrong = 0;
const groupOf = new Map<number, number>();
const mistaken: [number, number][] = [];
groups.forEach(({ ids }, at) => {
  for (const [place, one] of ids.entries()) {
    groupOf.set(one, at);
    for (const other of ids.slice(place + 1))
      if (of(one) === of(other)) right++;
      else {
        wrong++;
        mistaken.push([one, other]);
      }
  }
});
const doubles = truth.flatMap((one, at) => (one ? [{ id: at + 1, ...one }] : []));
const isFound = ({ id, of: origin }: { id: number; of: number }): boolean =>
  groupOf.has(id) && groupOf.get(id) === groupOf.get(origin);
const recall = doubles.filter(isFound).length / doubles.length;
console.log(`precision ${(right / (right + wrong)).toFixed(4)} (goal 0.98), recall ${recall.toFixed(4)} (goal 0.95)`);

const kinds = [...new Set(doubles.map(({ error }) => error))];
for (const kind of kinds) {
  const some = doubles.filter(({ error }) => error === kind);
  const found = some.filter(isFound).length;
  const ids = new Set(some.map(({ id }) => id));
  const false_ = mistaken.filter(([one, other]) => ids.has(one) || ids.has(other)).length;
  console.log(
    `  ${kind.padEnd(45)} recall ${(found / some.length).toFixed(3)}  precision ${(found / Math.max(1, found + false_)).toFixed(3)}  of ${some.length}`,
  );
}

// The same score as somebody is entered.
const taken: number[] = [];
for (let turn = 0; turn < 500; turn++) {
  const record = records[(turn * 397) % records.length];
  if (!record) continue;
  const begun = performance.now();
  index.like({ ...record, id: 0 }, 6);
  taken.push(performance.now() - begun);
}
console.log(`who a new record is like: ${show(median(taken))} at the median, ${show(p95(taken))} at p95 (goal 50 ms)`);
console.log(`memory ${(process.memoryUsage().heapUsed / 1e6).toFixed(0)} MB`);
if (process.env['WEIGHTS'])
  console.log(JSON.stringify({ pairs: index.model.pairs, ...weightsOf(index.model) }, null, 1));
if (process.env['MISTAKES'])
  for (const [one, other] of mistaken.slice(0, 25))
    console.log(JSON.stringify([records[one - 1], records[other - 1], index.chance(one, other)]));
if (process.env['MISSED'])
  for (const double of doubles
    .filter((one) => !isFound(one) && one.error.includes(process.env['MISSED'] ?? ''))
    .slice(0, 12))
    console.log(JSON.stringify([records[double.id - 1], records[double.of - 1], index.chance(double.id, double.of)]));
