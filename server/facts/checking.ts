import type { Checked, Follower } from '../platform/follower.ts';

/** So many supporters are checked at once; a question that comes meanwhile waits for them. */
const AT_ONCE = 100;
/** Of so many at most it is said what differed. */
const MOST_SAID = 20;

type Differing = Checked['differs'];
type Kept = Pick<Follower<unknown, unknown>, 'check' | 'isBusy'>;

/**
 * Holds what threads keep in memory against the database, some supporters at a time while nobody waits for them, and
 * round and round: were one of them told something that another was not, a sum would be wrong until the next start,
 * and nobody would know.
 */
export class Checking {
  private readonly upTo = new Map<Kept, number>();
  private readonly timer: NodeJS.Timeout | null;
  private busy = false;

  /** `say` is told what differed, and was put right; `each` is how often it looks, in milliseconds, 0 for never by itself. */
  constructor(
    private readonly threads: readonly Kept[],
    private readonly say: (differing: Differing) => void,
    each = 0,
  ) {
    this.timer = each === 0 ? null : setInterval(() => void this.turn(), each).unref();
  }

  close(): void {
    if (this.timer) clearInterval(this.timer);
  }

  /** Checks everyone in every thread that keeps something; answers of whom something differed. */
  async all(): Promise<Differing> {
    const found: Differing = [];
    for (const thread of this.threads)
      for (let after: number | null = 0; after !== null;) {
        const checked: Checked | null = await thread.check(after, 1000);
        found.push(...(checked?.differs ?? []));
        after = checked?.upTo ?? null;
      }
    return found;
  }

  /** Checks the next supporters of each thread that is not asked anything. */
  async turn(): Promise<void> {
    if (this.busy) return;
    this.busy = true;
    try {
      for (const thread of this.threads) {
        if (thread.isBusy) continue;
        // A thread that ends meanwhile, or has lost its database, begins anew by itself.
        const checked = await thread.check(this.upTo.get(thread) ?? 0, AT_ONCE).catch(() => null);
        if (!checked) continue;
        this.upTo.set(thread, checked.upTo ?? 0);
        if (checked.differs.length > 0) this.say(checked.differs.slice(0, MOST_SAID));
      }
    } finally {
      this.busy = false;
    }
  }
}
