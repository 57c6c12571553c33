import type { OwnField } from '@tallystick/core/catalogue';
import type { Condition, Group, Question } from '@tallystick/core/segments';
import type { Asked } from '@tallystick/contract/segments';
import type { Sql } from '../platform/db.ts';
import { fieldsIn } from '../settings/index.ts';
import type { Settings } from '../settings/index.ts';
import type { AskedGroup } from './asked.ts';
import { withCodes } from './codes.ts';
import type { FactsThread } from './thread.ts';

/** Who keeps what conditions may name: other segments, and lists of people. Null for one that is gone. */
export interface Named {
  segment: (id: number) => Promise<Question | null>;
  people: (id: number) => Promise<Uint32Array | null>;
}

/** Makes questions ready for facts: the day, the organization's own fields, and what the conditions name. */
export class Questions {
  private named: Named = { segment: () => Promise.resolve(null), people: () => Promise.resolve(null) };

  constructor(
    private readonly sql: Sql,
    private readonly settings: Settings,
    private readonly facts: FactsThread,
  ) {}

  /** Says who keeps segments and lists of people. */
  keep(named: Named): void {
    this.named = named;
  }

  own(): Promise<OwnField[]> {
    return fieldsIn(this.sql);
  }

  async ready({ match, credit }: Question): Promise<AskedGroup> {
    const [calendar, own] = await Promise.all([this.settings.calendar(), this.own()]);
    const [lists, segments] = [new Map<number, Uint32Array>(), new Map<number, Question>()];
    const seen = { lists: new Set<number>(), segments: new Set<number>() };
    const waiting = [match];
    for (let group = waiting.pop(); group; group = waiting.pop())
      for (const condition of conditionsIn(group)) {
        if (condition.kind === 'people' && !seen.lists.has(condition.list)) {
          seen.lists.add(condition.list);
          const people = await this.named.people(condition.list);
          if (people) lists.set(condition.list, people);
        }
        if (condition.kind === 'segment' && !seen.segments.has(condition.segment)) {
          seen.segments.add(condition.segment);
          const question = await this.named.segment(condition.segment);
          if (!question) continue;
          segments.set(condition.segment, question);
          waiting.push(question.match);
        }
      }
    return { group: match, setting: { calendar, credit, own, lists, segments } };
  }

  /** Conditions as they were asked, with states in any spelling as the codes that addresses have. */
  async asked({ conditions, credit }: Asked): Promise<Question> {
    const { country } = await this.settings.organization();
    return { match: withCodes(conditions as Group, country) as Group, credit };
  }

  async count(question: Question) {
    return this.facts.ask({ ask: 'count', ...(await this.ready(question)) });
  }

  /** The ids of everyone who matches now, ascending. */
  async members(question: Question): Promise<Uint32Array> {
    return this.facts.ask({ ask: 'members', ...(await this.ready(question)) });
  }

  async explain(question: Question, supporterId: number) {
    const { locale, currency } = await this.settings.formats();
    const asked = await this.ready(question);
    return this.facts.ask({ ask: 'explain', ...asked, supporterId, formats: { locale, currency } });
  }
}

/** The conditions of a part, those about somebody related among them. */
export function conditionsIn(part: Condition | Group): Condition[] {
  if (part.kind === 'group') return part.parts.flatMap(conditionsIn);
  return part.kind === 'related' ? [part, ...conditionsIn(part.match)] : [part];
}
