import { Follower } from '../platform/follower.ts';
import type { FindAnswers, FindQuestion } from './replica.ts';
import { area } from '../area.ts';
import { Anything, serveFind } from './anything.ts';

export type FindThread = Follower<FindQuestion, FindAnswers>;

/** The thread that finds supporters in the database at `url`; it begins at the first question. */
export const startFind = (url: string): FindThread => new Follower(new URL('./worker.ts', import.meta.url), url);
export { Anything, serveFind } from './anything.ts';

/** Finding anything as one types. */
export const findArea = area('find', ({ config, source, http, onClose }) => {
  const finder = startFind(config.databaseUrl);
  onClose(() => finder.close());
  serveFind(http, new Anything(source, finder));
  return { finder };
});
