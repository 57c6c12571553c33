import type { Calendar } from '../dates/index.ts';
import type { Facts } from '../facts/index.ts';
import type { CreditChoice } from '../totals/index.ts';
import type { RowsCondition } from './condition.ts';
import { during, rows } from './make.ts';
import { measureAs } from './measures.ts';
import type { Measure } from './measures.ts';
import { Reader } from './reader.ts';
import { STRAIGHT } from './straight.ts';
import type { Given } from './given.ts';

/** A figure of the supporter that the pass is at; NaN where it has no value. */
export interface Tally {
  value: () => number;
  /** The same of any supporter, where it takes no more than looking at the columns. */
  of?: (slot: number) => number;
}

/**
 * One pass over supporters, in which whatever is asked of their rows is read while they are at hand: the same question
 * asked twice is answered once.
 */
export class Pass {
  private readonly known = new Map<string, Tally>();
  private slot = 0;
  /** Counts supporters, so that a tally knows whether it was made for this one. */
  private turn = 0;

  constructor(
    private readonly facts: Facts,
    private readonly calendar: Calendar,
    private readonly credit: CreditChoice,
  ) {}

  /** Goes to a supporter; their rows are read once something is asked of them. */
  goTo(slot: number): void {
    this.slot = slot;
    this.turn++;
  }

  /** What a condition measures; a number of rows is counted no further than is enough. */
  ask(condition: RowsCondition, enough = Infinity): Tally {
    const { of, where, measure, against, after, together, credit = this.credit } = condition;
    const about = { of, credit, ...(together ? { together } : {}), ...(after ? { after } : {}) };
    if (measure === 'change') {
      const sums = { kind: 'rows', ...about, measure: 'sum', test: { is: 'filled' } } as const;
      const now = this.ask({ ...sums, where });
      const others = where.filter(({ part }) => part !== 'day');
      const then = against ? [...others, during(against)] : where;
      const before = this.ask({ ...sums, where: then });
      return { value: () => now.value() - before.value() };
    }
    return this.once(JSON.stringify([about, where, measure, enough]), () => {
      const begun = after && this.ask(rows(after.of, after.where, 'last', { is: 'filled' }));
      const from = begun ? { day: () => begun.value(), days: after.days } : null;
      const reader = new Reader(
        this.facts,
        this.calendar,
        { ...about, where },
        credit,
        from,
        enough,
        measure === 'number',
      );
      const tally = this.measured(reader, measure);
      return together && !after ? this.onceAHome(tally) : tally;
    });
  }

  private once(key: string, make: () => Tally): Tally {
    const known = this.known.get(key) ?? make();
    this.known.set(key, known);
    return known;
  }

  private measured(reader: Reader, name: Measure): Tally {
    const told = STRAIGHT.find((one) => one === name);
    const of = told ? reader.straight(told) : null;
    if (of !== null) return { value: () => of(this.slot), of };
    let [turn, figure] = [-1, NaN];
    const measure: (given: Given) => number = measureAs(name).of;
    const nothing = measure(reader.nothing());
    return {
      value: () => {
        if (turn === this.turn) return figure;
        turn = this.turn;
        figure = reader.hasNone(this.slot) ? nothing : measure(reader.read(this.slot));
        return figure;
      },
    };
  }

  /** The same of everybody who shares a home, measured once for all of them. */
  private onceAHome({ value }: Tally): Tally {
    const { facts } = this;
    const known = new Uint8Array(facts.size);
    const figures = new Float64Array(facts.size);
    return {
      value: () => {
        const home = facts.slotOf(facts.sharedHome(this.slot));
        if (home < 0) return value();
        if (known[home] === 0) {
          known[home] = 1;
          figures[home] = value();
        }
        return figures[home] as number;
      },
    };
  }
}
