import { withArticle } from '../names/index.ts';
import type { SupporterKind } from '../supporters/index.ts';

/** A kind of tie: the first supporter is the `name` of the second, who is the `back` of the first. */
export interface RelationKind {
  id: number;
  name: string;
  back: string;
  /** Which kinds of supporter may stand at each end; empty: any. */
  from: readonly SupporterKind[];
  to: readonly SupporterKind[];
  /** True where it may never run in a circle, as with parents. */
  lineal: boolean;
}

export interface Relation {
  id: number;
  kindId: number;
  fromId: number;
  toId: number;
}

/** What the other end is to the one it is seen from: on a child's record the other is the `parent`. */
export function roleOfOther(kind: { name: string; back: string }, seenFromFirst: boolean): string {
  return seenFromFirst ? kind.back : kind.name;
}

/**
 * Why a tie cannot be made, in words, or null: to oneself, between kinds of supporter that it is not for, a second
 * time, or (for lineal kinds) so that someone becomes their own ancestor. `known` are the ties of that kind.
 */
export function relationFault(
  kind: RelationKind,
  from: { id: number; kind: SupporterKind; name: string },
  to: { id: number; kind: SupporterKind; name: string },
  known: readonly Relation[],
): string | null {
  if (from.id === to.id) return 'A supporter cannot be tied to itself.';
  if (kind.from.length > 0 && !kind.from.includes(from.kind))
    return `${from.name} is ${withArticle(from.kind)} and cannot be ${withArticle(kind.name)}.`;
  if (kind.to.length > 0 && !kind.to.includes(to.kind))
    return `${to.name} is ${withArticle(to.kind)} and cannot be ${withArticle(kind.back)}.`;
  const same = known.filter((one) => one.kindId === kind.id);
  const symmetric = kind.name === kind.back;
  const twice = same.some(
    (one) =>
      (one.fromId === from.id && one.toId === to.id) || (symmetric && one.fromId === to.id && one.toId === from.id),
  );
  if (twice) return `${from.name} is the ${kind.name} of ${to.name} already.`;
  if (kind.lineal && reaches(same, to.id, from.id))
    return `${to.name} comes before ${from.name} in that line already, so ${from.name} cannot be their ${kind.name}.`;
  return null;
}

/** Whether one comes to `goal` from `start` by ties, each gone from its first end to its second. */
export function reaches(ties: readonly Pick<Relation, 'fromId' | 'toId'>[], start: number, goal: number): boolean {
  const seen = new Set([start]);
  const waiting = [start];
  for (let at = waiting.pop(); at !== undefined; at = waiting.pop()) {
    if (at === goal) return true;
    for (const tie of ties)
      if (tie.fromId === at && !seen.has(tie.toId)) {
        seen.add(tie.toId);
        waiting.push(tie.toId);
      }
  }
  return false;
}

export interface NetworkNode {
  id: number;
  /** Steps from the centre, and the place on a picture whose centre is 0,0 and whose rings are 1 apart. */
  ring: number;
  x: number;
  y: number;
}

/**
 * Places a supporter in the middle, those tied to it around it, and those tied to them behind, each near the one it
 * hangs on. At most `most` are placed, nearer ones first. Ties between any two that are placed are drawn by the caller.
 */
export function network(center: number, ties: readonly { fromId: number; toId: number }[], most = 40): NetworkNode[] {
  const beside = new Map<number, number[]>();
  for (const { fromId, toId } of ties) {
    beside.set(fromId, [...(beside.get(fromId) ?? []), toId]);
    beside.set(toId, [...(beside.get(toId) ?? []), fromId]);
  }
  const placed = new Map<number, NetworkNode>([[center, { id: center, ring: 0, x: 0, y: 0 }]]);
  // From straight up, so that two lie side by side.
  let ring = [{ id: center, from: -Math.PI / 2, to: 1.5 * Math.PI }];
  for (let distance = 1; ring.length > 0; distance++) {
    const next: { id: number; from: number; to: number }[] = [];
    for (const { id, from, to } of ring) {
      const fresh = [...new Set(beside.get(id) ?? [])].filter((other) => !placed.has(other));
      const share = (to - from) / fresh.length;
      fresh.slice(0, Math.max(0, most - placed.size)).forEach((other, index) => {
        const angle = from + share * (index + 0.5);
        placed.set(other, { id: other, ring: distance, x: distance * Math.cos(angle), y: distance * Math.sin(angle) });
        next.push({ id: other, from: angle - share / 2, to: angle + share / 2 });
      });
    }
    ring = next;
  }
  return [...placed.values()];
}
