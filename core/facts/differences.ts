import { FLAG, LIST_NAMES } from './declared.ts';
import type { ListName } from './declared.ts';
import type { Facts } from './facts.ts';

/**
 * What two sets of facts say differently of a supporter: names of lists, of what is known once, and `sortName`,
 * `fields`, `giftFields` and `home` (whether they stand among those who share it). Of a supporter whom one of them has
 * never seen, the other must have nothing left. In what order rows stand says nothing, but for the days of gifts.
 */
export function differences(one: Facts, other: Facts, id: number): string[] {
  const [mine, its] = [told(one, id), told(other, id)];
  if (mine && its) return Object.keys(mine).filter((name) => mine[name] !== its[name]);
  const left = mine ?? its;
  if (!left) return [];
  const flags = Number(left['flags']) & FLAG.erased ? [] : ['flags'];
  return [...flags, ...[...LIST_NAMES, 'home', 'fields', 'giftFields'].filter((name) => left[name] !== '')];
}

/** All that is known of a supporter, each thing as one text or number; null of one who was never seen. */
function told(facts: Facts, id: number): Record<string, string | number> | null {
  const slot = facts.slotOf(id);
  if (slot < 0) return null;
  const once = Object.entries(facts.people).map(([name, { words, values }]) => {
    const value = values[slot] ?? -1;
    return [name, words === null ? value : (words.words[value] ?? value)] as const;
  });
  const lists = LIST_NAMES.map((name) => [name, rowsIn(facts, name, slot)] as const);
  return {
    ...Object.fromEntries([...once, ...lists]),
    sortName: facts.sortNames[slot] ?? '',
    home: [...facts.homeOf(slot)].includes(slot) ? '' : 'not in it',
    fields: valuesIn(facts.fields, slot, (value) => value),
    giftFields: valuesIn(facts.giftFields, slot, (values) => JSON.stringify(values.toSorted())),
  };
}

function valuesIn<V>(
  all: ReadonlyMap<number, ReadonlyMap<number, V>>,
  slot: number,
  say: (value: V) => string,
): string {
  const said = [...all].flatMap(([field, bySlot]) => {
    const value = bySlot.get(slot);
    return value === undefined ? [] : [`${field} ${say(value)}`];
  });
  return said.sort().join('\n');
}

/** The rows of a list as one text; `null` stands where a column has no value for a row. */
function rowsIn(facts: Facts, name: ListName, slot: number): string {
  const { start, count, columns } = facts.listOf(name);
  const from = start[slot] ?? 0;
  const places = Array.from({ length: count[slot] ?? 0 }, (_, at) => from + at);
  const rows = places.map((at) =>
    JSON.stringify(
      Object.values(columns).map(({ words, values }) => {
        const value = values[at] ?? null;
        return words === null || value === null ? value : words.words[value];
      }),
    ),
  );
  const days = name === 'gifts' ? places.map((at) => facts.gifts.columns.day.values[at]).join(' ') : '';
  return rows.length === 0 ? '' : [days, ...rows.sort()].join('\n');
}
