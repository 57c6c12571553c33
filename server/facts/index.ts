import { Follower } from '../platform/follower.ts';
import type { FactsAnswers, FactsQuestion } from './replica.ts';
import { area } from '../area.ts';

export { FactsReplica } from './replica.ts';
export type { FactsAnswers, FactsQuestion, GivenView, GivingView } from './replica.ts';
export type { FieldSort, ListGroupBy, ListSort } from './listing.ts';
export type FactsThread = Follower<FactsQuestion, FactsAnswers>;

/** The thread that keeps the facts over the database at `url`; it begins at the first question. */
export const startFacts = (url: string): FactsThread => new Follower(new URL('./worker.ts', import.meta.url), url);

/** The facts in a thread of their own. */
export const factsArea = area('facts', ({ config, onClose }) => {
  const facts = startFacts(config.databaseUrl);
  onClose(() => facts.close());
  return { facts };
});
