import { Follower } from '../platform/follower.ts';
import type { FindAnswers, FindQuestion } from './replica.ts';
import { area } from '../area.ts';

export { findablesOf } from './replica.ts';
export type FindThread = Follower<FindQuestion, FindAnswers>;

/** The thread that finds supporters in the database at `url`; it begins at the first question. */
export const startFind = (url: string): FindThread => new Follower(new URL('./worker.ts', import.meta.url), url);

/** The find index in a thread of its own. */
export const findArea = area('find', ({ config, onClose }) => {
  const finder = startFind(config.databaseUrl);
  onClose(() => finder.close());
  return { finder };
});
