import { Checking } from './checking.ts';
import { Follower } from '../platform/follower.ts';
import type { FactsAnswers, FactsQuestion } from './replica.ts';

type Thread = Follower<FactsQuestion, FactsAnswers>;
const start = (url: string): Thread => new Follower(new URL('./worker.ts', import.meta.url), url);

/**
 * The facts, in two threads: what conditions are asked about may take seconds of a large base, and lists and records
 * do not wait behind it. Each thread begins at its first question and catches up by itself.
 */
export class FactsThread {
  private readonly lists: Thread;
  private readonly conditions: Thread;

  /** What they keep is held against the database. */
  readonly checking: Checking;

  /** `differs` is told of whom what was kept differed from the database; `each` is how often that is looked at. */
  constructor(url: string, differs: ConstructorParameters<typeof Checking>[1] = () => undefined, each = 0) {
    this.lists = start(url);
    this.conditions = start(url);
    this.checking = new Checking([this.lists, this.conditions], differs, each);
  }

  /** Asks, and waits for an answer that knows everything committed before the question. */
  ask<K extends keyof FactsAnswers & string>(question: FactsQuestion & { ask: K }): Promise<FactsAnswers[K]> {
    return (asksConditions(question) ? this.conditions : this.lists).ask<K>(question);
  }

  async close(): Promise<void> {
    this.checking.close();
    await Promise.all([this.lists.close(), this.conditions.close()]);
  }
}

/**
 * A page of the list of supporters that is narrowed to a tag or a group stays with the lists; what is narrowed to a
 * segment, and the table of one, may ask anything.
 */
function asksConditions(question: FactsQuestion): boolean {
  if (question.ask !== 'list') return ['count', 'members', 'pasted'].includes(question.ask);
  if (question.group === null) return false;
  return !question.figures || question.group.parts.some((part) => part.kind !== 'rows');
}
