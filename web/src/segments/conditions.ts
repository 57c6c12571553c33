import { LISTED, LISTED_NAMES, listedAs } from '@tallystick/core/catalogue';
import type { Field, Known, ListedName } from '@tallystick/core/catalogue';
import { between, measureAs, measuresOf, SOME, TESTS } from '@tallystick/core/segments';
import type { Measure } from '@tallystick/core/segments';
import type { Condition, Group } from '@tallystick/contract/segments';
import type { Option } from '../ui/choice/index.tsx';

export type Part = Condition | Group;
export type Of<K extends Condition['kind']> = Extract<Condition, { kind: K }>;
export type Test = Of<'field'>['test'];
export type Where = Of<'rows'>['where'][number];
/** What is measured of the rows of a list. */
export type Figure = Omit<Of<'rows'>, 'kind' | 'test' | 'not' | 'off'>;
export const EMPTY_GROUP: Group = { kind: 'group', join: 'all', parts: [] };

/** A test of a kind as it begins, with nothing chosen yet. */
export function freshTest(is: Test['is']): Test {
  switch (is) {
    case 'between':
      return between(null);
    case 'in':
      return { is, window: { kind: 'fiscal-year', ago: 0 } };
    case 'filled':
    case 'empty':
      return { is };
    default:
      return { is, values: [] };
  }
}

/** The test that something known is first put to. */
export function firstTest({ type }: Pick<Known, 'type'>): Test {
  if (type.is === 'yesno') return { is: 'any-of', values: ['1'] };
  if (type.is === 'birthday') return { is: 'in', window: { kind: 'month', ago: 0 } };
  return freshTest(TESTS[type.is][0] ?? 'filled');
}

/** The parts that a new condition over a list shows; what leaves nobody out until it is told more. */
const firstWhere = (of: ListedName): Where[] => {
  const { parts, first } = listedAs(of);
  return first.flatMap((part) => {
    const known = parts[part];
    return known ? [{ part, test: firstTest(known) }] : [];
  });
};

/** A condition over a list as it begins: with a measure, or that there are some. */
export const freshRows = (of: ListedName, measure: Measure = 'number'): Of<'rows'> => ({
  ...{ kind: 'rows', of, measure },
  // The first or the largest is asked of all that there is, until a window is chosen.
  where: firstWhere(of).filter(({ part }) => part !== 'day' || ['number', 'sum', 'change'].includes(measure)),
  test: measure === 'number' ? SOME : measureAs(measure).type === 'date' ? { is: 'filled' } : freshTest('between'),
  ...(measure === 'change' ? { against: { kind: 'fiscal-year', ago: 1 } as const } : {}),
});

/** What can be asked about, each with how a condition about it begins. */
export interface Asked extends Option {
  begin: () => Part;
}

/** Everything that can be asked about: found by any part of its name and the other words that people use for it. */
export function askable(fields: ReadonlyMap<string, Field>): Asked[] {
  const lists = LISTED_NAMES.flatMap((of): Asked[] => {
    const { label, group, also = '', parts } = listedAs(of);
    const words = [also, ...Object.values(parts).flatMap((part) => [part.label, part.also ?? ''])].join(' ');
    const named = of === 'gifts' ? 'Gave' : label;
    const measures = of === 'gifts' ? measuresOf(LISTED[of]).filter((measure) => measure !== 'number') : [];
    return [
      { value: `rows:${of}`, label: named, also: group, words, begin: () => freshRows(of) },
      ...measures.map((measure) => ({
        ...{ value: `rows:${of}:${measure}`, label: measureLabel(of, measure), also: group },
        begin: () => freshRows(of, measure),
      })),
    ];
  });
  const known = [...fields].map(([field, entry]): Asked => ({
    ...{ value: `field:${field}`, label: entry.label, also: entry.group, words: entry.also ?? '' },
    begin: () => ({ kind: 'field', field, test: firstTest(entry) }),
  }));
  const related = (by: 'tie' | 'household'): Part => ({ kind: 'related', by, where: [], match: EMPTY_GROUP });
  const inside = (join: Group['join']): Part => ({ ...EMPTY_GROUP, join });
  return [
    ...lists.filter(({ also }) => also === 'Giving'),
    ...known,
    ...lists.filter(({ also }) => also !== 'Giving'),
    {
      value: 'related:tie',
      label: 'Tied to somebody who …',
      also: 'Ties',
      words: 'spouse employer relative matches',
      begin: () => related('tie'),
    },
    {
      value: 'related:household',
      label: 'Somebody in the household …',
      also: 'Ties',
      words: 'home spouse matches',
      begin: () => related('household'),
    },
    {
      value: 'people',
      label: 'On a list of people',
      also: 'Lists',
      words: 'paste numbers e-mails snapshot',
      begin: () => ({ kind: 'people', list: 0 }),
    },
    { value: 'segment', label: 'In another segment', also: 'Lists', begin: () => ({ kind: 'segment', segment: 0 }) },
    {
      value: 'group:any',
      label: 'A group of which any must hold',
      also: 'Groups of conditions',
      words: 'or within',
      begin: () => inside('any'),
    },
    {
      value: 'group:all',
      label: 'A group of which all must hold',
      also: 'Groups of conditions',
      words: 'and within',
      begin: () => inside('all'),
    },
    {
      value: 'group:none',
      label: 'A group of which none may hold',
      also: 'Groups of conditions',
      words: 'not within',
      begin: () => inside('none'),
    },
  ];
}

/** What can be measured of a list, to choose from. */
export const measureOptions = (of: ListedName): Option[] =>
  measuresOf(LISTED[of]).map((name) => ({ value: name, label: measureAs(name).word.toLowerCase() }));

/** A measure of a list, as it is offered. */
export const measureLabel = (of: ListedName, measure: Measure): string => {
  const words = measureAs(measure).says(listedAs(of));
  return `${words.charAt(0).toUpperCase()}${words.slice(1)}`;
};

/** What a condition is called in its line. */
export function nameOf(part: Condition, fields: ReadonlyMap<string, Field>): string {
  switch (part.kind) {
    case 'field':
      return fields.get(part.field)?.label ?? 'No longer there';
    case 'rows':
      return listedAs(part.of).label;
    case 'related':
      return part.by === 'tie' ? 'Tied to somebody' : 'In the household';
    case 'people':
      return 'On a list';
    case 'segment':
      return 'In a segment';
  }
}

/** Where a part stands: its place in each group from the outermost in. */
export type Path = readonly number[];

const groupIn = (group: Group, path: Path): Group | null => {
  let at: Group = group;
  for (const place of path) {
    const part = at.parts[place];
    if (part?.kind !== 'group') return null;
    at = part;
  }
  return at;
};

/** A group with the parts of the one at a path changed. */
function changed(group: Group, path: Path, change: (parts: Part[]) => Part[]): Group {
  const [place, ...rest] = path;
  if (place === undefined) return { ...group, parts: change(group.parts) };
  return {
    ...group,
    parts: group.parts.map((part, at) => (at === place && part.kind === 'group' ? changed(part, rest, change) : part)),
  };
}

/** The group with another part in the place at a path, or with none there. */
export const withPart = (group: Group, path: Path, part: Part | null): Group => {
  const at = path[path.length - 1] ?? 0;
  return changed(group, path.slice(0, -1), (parts) =>
    part === null ? parts.filter((_, place) => place !== at) : parts.map((old, place) => (place === at ? part : old)),
  );
};

/** The group with a part added at the end of the group at a path. */
export const withMore = (group: Group, path: Path, part: Part): Group =>
  changed(group, path, (parts) => [...parts, part]);

/**
 * The group with the part at a path moved one place up or down: past its neighbour, into a group that it meets, or out
 * of its own at its end. Answers where it then stands; null where it cannot go further.
 */
export function moved(group: Group, path: Path, by: 1 | -1): { group: Group; path: Path } | null {
  const [at, inside] = [path[path.length - 1] ?? 0, path.slice(0, -1)];
  const own = groupIn(group, inside);
  const part = own?.parts[at];
  if (!own || !part) return null;
  const next = own.parts[at + by];
  if (next?.kind === 'group' && part.kind !== 'group') {
    const place = by === 1 ? 0 : next.parts.length;
    return relocated(group, path, [...inside, at + by], place);
  }
  if (next) return relocated(group, path, inside, at + by);
  if (inside.length === 0) return null;
  const outside = inside.slice(0, -1);
  const place = (inside[inside.length - 1] ?? 0) + (by === 1 ? 1 : 0);
  return relocated(group, path, outside, place);
}

/** The group with the part at a path put into another group, at a place as it stands before it is taken away. */
export function relocated(group: Group, from: Path, into: Path, place: number): { group: Group; path: Path } | null {
  const [at, own] = [from[from.length - 1] ?? 0, from.slice(0, -1)];
  const part = groupIn(group, own)?.parts[at];
  // Nothing goes into itself.
  if (!part || !groupIn(group, into) || from.every((one, level) => into[level] === one)) return null;
  const without = withPart(group, from, null);
  // Taking it away moves what came after it in its group one place up.
  const goal = into.map((one, level) =>
    level === own.length && own.every((before, depth) => into[depth] === before) && one > at ? one - 1 : one,
  );
  const put = changed(without, goal, (parts) => [...parts.slice(0, place), part, ...parts.slice(place)]);
  return { group: put, path: [...goal, place] };
}
