import { partIn } from '../catalogue/index.ts';
import type { Known, Read } from '../catalogue/index.ts';
import { NO_OWNER } from '../facts/index.ts';
import type { AnyList } from '../facts/index.ts';
import type { Where } from './condition.ts';
import { asksGone, codePasses, codeTestOf, isOpen, sifted, testOf } from './test.ts';
import type { CodeTest } from './test.ts';
import { areFew } from './few.ts';

/* What is asked of the rows of a list, made ready: as tables of codes where it can be. */

/** What a row has to pass: codes are told from the columns themselves, whatever else is asked by tests. */
export interface Tests {
  codes: CodeTest[];
  tests: ((row: number) => boolean)[];
}

/** What is asked of rows beside their days and amounts, as one; null where nothing is. */
export function asked({ codes, tests }: Tests): ((row: number) => boolean) | null {
  const all = [
    ...codes.map(
      (code) =>
        (row: number): boolean =>
          codePasses(code, row),
    ),
    ...tests,
  ];
  const [first, second] = all;
  if (first === undefined) return null;
  if (second === undefined) return first;
  if (all.length === 2) return (row) => first(row) && second(row);
  return (row) => all.every((test) => test(row));
}

/** What is asked of rows, where it can be as tables of codes. */
export function testsOf(where: readonly Where[], known: Readonly<Record<string, Known>>, read: Read): Tests {
  const coded = where.map((one) => codeTest(one, known, read));
  return {
    codes: coded.flatMap((one) => one ?? []),
    tests: where.filter((_, at) => coded[at] === null).map((one) => whereTest(one, known, read)),
  };
}

/** Whether a row passes all that is asked of it. */
export const rowTest = (
  where: readonly Where[],
  known: Readonly<Record<string, Known>>,
  read: Read,
): ((row: number) => boolean) => asked(testsOf(where, known, read)) ?? (() => true);

/**
 * Who may have a row that passes: those who have rows; where few have, whoever has one that passes what can be asked as
 * a table of codes. Somebody may be named twice.
 */
export function mayHave(
  list: AnyList,
  where: readonly Where[],
  known: Readonly<Record<string, Known>>,
  { facts, calendar }: Omit<Read, 'columns'>,
): Uint32Array {
  const all = list.owners();
  if (!areFew(all.length, facts)) return all;
  const [code] = testsOf(where, known, { facts, calendar, columns: list.columns }).codes;
  if (code === undefined) return all;
  const whose = list.whose();
  return sifted(code, whose.length)
    .map((row) => whose[row] as number)
    .filter((owner) => owner !== NO_OWNER);
}

/** What is asked of a part as a table of codes; null where it cannot be. */
function codeTest(
  { part, test, not = false }: Where,
  known: Readonly<Record<string, Known>>,
  read: Read,
): CodeTest | null {
  const entry = partIn(known, part);
  if (!entry || isOpen(test) || asksGone(test, read.calendar)) return null;
  return codeTestOf(entry.type, entry.read(read), test, read.calendar, not);
}

/** Whether a row passes what is asked of one of its parts; of a part that there is not, none does. */
function whereTest(
  { part, test, not }: Where,
  known: Readonly<Record<string, Known>>,
  read: Read,
): (row: number) => boolean {
  const entry = partIn(known, part);
  if (!entry || asksGone(test, read.calendar)) return () => false;
  if (isOpen(test)) return () => true;
  const passes = testOf(entry.type, entry.read(read), test, read.calendar);
  return not ? (row) => !passes(row) : passes;
}
