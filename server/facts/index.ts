import { area } from '../area.ts';
import { settingsArea } from '../settings/index.ts';
import { Questions } from './questions.ts';
import { FactsThread } from './thread.ts';

export { FactsThread } from './thread.ts';
export { FactsReplica } from './replica.ts';
export { conditionsIn, Questions } from './questions.ts';
export type { AskedGroup } from './asked.ts';
export type { FactsAnswers, FactsQuestion, GivenView, GivingView, ListedView } from './replica.ts';
export { PLAIN_LIST } from './listing.ts';
export type { ListAnswer, ListQuestion, ListSums, Names } from './listing.ts';

/** So often some of what is kept is held against the database. */
const CHECK_EACH_MS = 5_000;

/** The facts in threads of their own, and the questions that are put to them. */
export const factsArea = area('facts', ({ config, sql, log, onClose }, of) => {
  const facts = new FactsThread(
    config.databaseUrl,
    (differs) => log.error({ differs }, 'facts differed from the database, and were put right'),
    config.checkFactsEach ?? CHECK_EACH_MS,
  );
  onClose(() => facts.close());
  return { facts, questions: new Questions(sql, of(settingsArea).settings, facts) };
});
