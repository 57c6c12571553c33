import { listedIn, partIn } from '../catalogue/index.ts';
import type { Field, Type } from '../catalogue/index.ts';
import type { Window } from '../dates/index.ts';
import type { Condition, Group, Where } from './condition.ts';
import type { Test } from './test.ts';
import type { Measured, Shown, View } from './view.ts';

/*
 * What a definition names that another database knows by another number: funds, tags, custom fields, other segments …
 * Each is known by its kind and its number, as text.
 */

/** What is named: a kind of reference, or a custom field, another segment, a list of people, a window kept by name. */
export type NamedKind = Extract<Type, { is: 'ref' }>['to'] | 'field' | 'segment' | 'list' | 'window';

/** Answers the number that stands for one named thing from now on; the same one where it stays. */
export type Renumber = (kind: NamedKind, id: string) => string;

export interface Definition {
  conditions: Group;
  view: View;
}

const OWN = /^((?:gift-)?own):(\d+)$/;

/** A definition with whatever it names under the numbers that `renumber` says. */
export function renumbered(
  { conditions, view }: Definition,
  fields: ReadonlyMap<string, Field>,
  renumber: Renumber,
): Definition {
  const inWindow = (window: Window): Window =>
    window.kind === 'kept' ? { kind: 'kept', id: Number(renumber('window', String(window.id))) } : window;
  const inTest = (type: Type | undefined, test: Test): Test => {
    if (test.is === 'in') return { is: 'in', window: inWindow(test.window) };
    return type?.is === 'ref' && test.is === 'any-of'
      ? { is: 'any-of', values: test.values.map((id) => renumber(type.to, id)) }
      : test;
  };
  const inWhere = (of: string, where: readonly Where[]): Where[] => {
    const parts = listedIn(of)?.parts ?? {};
    return where.map((one) => ({ ...one, test: inTest(partIn(parts, one.part)?.type, one.test) }));
  };
  const inField = (name: string): string => {
    const [, kind, id] = OWN.exec(name) ?? [];
    return kind === undefined || id === undefined ? name : `${kind}:${renumber('field', id)}`;
  };
  const inFigure = <F extends Measured>(figure: F): F => ({
    ...figure,
    where: inWhere(figure.of, figure.where),
    ...(figure.against ? { against: inWindow(figure.against) } : {}),
    ...(figure.after ? { after: { ...figure.after, where: inWhere(figure.after.of, figure.after.where) } } : {}),
  });
  const inPart = (part: Condition | Group): Condition | Group => {
    switch (part.kind) {
      case 'group':
        return inGroup(part);
      case 'field':
        return { ...part, field: inField(part.field), test: inTest(fields.get(part.field)?.type, part.test) };
      case 'rows':
        return inFigure(part);
      case 'related':
        return { ...part, where: inWhere('ties', part.where), match: inGroup(part.match) };
      case 'people':
        return { ...part, list: Number(renumber('list', String(part.list))) };
      case 'segment':
        return { ...part, segment: Number(renumber('segment', String(part.segment))) };
    }
  };
  const inGroup = (group: Group): Group => ({ ...group, parts: group.parts.map(inPart) });
  const inShown = (shown: Shown): Shown => {
    switch (shown.kind) {
      case 'field':
        return { ...shown, field: inField(shown.field) };
      case 'measure':
        return { ...inFigure(shown), ...(shown.plus ? { plus: shown.plus.map(inFigure) } : {}) };
      case 'values':
        return { ...shown, where: inWhere(shown.of, shown.where) };
      case 'part':
      case 'reached':
        return shown;
    }
  };
  return {
    conditions: inGroup(conditions),
    view: {
      ...view,
      where: inWhere(view.rows, view.where),
      columns: view.columns.map((column) => ({ ...column, shows: inShown(column.shows) })),
    },
  };
}

/** Everything that a definition names, each once. */
export function namedIn(definition: Definition, fields: ReadonlyMap<string, Field>): { kind: NamedKind; id: string }[] {
  const found = new Map<string, { kind: NamedKind; id: string }>();
  renumbered(definition, fields, (kind, id) => {
    found.set(`${kind} ${id}`, { kind, id });
    return id;
  });
  return [...found.values()];
}
