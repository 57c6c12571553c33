import { setImmediate as nextTurn, setTimeout as pause } from 'node:timers/promises';
import mysql from 'mysql2/promise';
import { Problem } from './problem.ts';

const EVERY_MS = 3_000;
/** How long the database may take to answer the smallest question before it is held to be hung. */
const PATIENCE_MS = 10_000;

/**
 * Feels whether the database answers, over a connection of its own. One that was stopped says so by itself; one that
 * hangs says nothing, and whoever asked it would wait for ever. While it hangs, what waits for it is given up and what
 * comes is refused at once.
 */
export class Pulse {
  private connection: mysql.Connection | null = null;
  private readonly waiting = new Set<(error: Problem) => void>();
  private hung = false;
  private stopping = false;
  private readonly beating: Promise<void>;

  constructor(
    private readonly url: string,
    private readonly patience = PATIENCE_MS,
    private readonly every = EVERY_MS,
  ) {
    this.beating = this.beat();
  }

  private async beat(): Promise<void> {
    while (!this.stopping) {
      // A database that is away is told of by whoever asks it; this is about one that is there and silent.
      this.hung = !(await this.answersInTime());
      if (this.hung) {
        for (const give of this.waiting)
          give(silent('Whether this was saved is not known: look before you try again.'));
        this.waiting.clear();
      }
      await pause(this.every, undefined, { ref: false });
    }
  }

  private async answersInTime(): Promise<boolean> {
    let answered = false;
    const asked = this.ask().then(
      () => (answered = true),
      // Refused or cut off is an answer, too.
      () => (answered = true),
    );
    await Promise.race([asked, pause(this.patience, undefined, { ref: false })]);
    // We may have been busy ourselves, with the answer lying there unread.
    for (let turn = 0; turn < 3 && !answered; turn++) await nextTurn();
    if (!answered) {
      this.connection?.destroy();
      this.connection = null;
    }
    return answered;
  }

  private async ask(): Promise<void> {
    try {
      this.connection ??= await this.opened();
      await this.connection.query('SELECT 1');
    } catch (error) {
      this.connection?.destroy();
      this.connection = null;
      throw error;
    }
  }

  private async opened(): Promise<mysql.Connection> {
    const connection = await mysql.createConnection({ uri: this.url, connectTimeout: this.patience * 2 });
    connection.on('error', () => (this.connection = null));
    return connection;
  }

  /** What `work` answers; throws a 503 when the database falls silent before that, or is silent already. */
  async during<T>(work: () => Promise<T>): Promise<T> {
    if (this.hung) throw silent('Nothing was changed by this request.');
    let give: (error: Problem) => void = () => undefined;
    const given = new Promise<never>((_resolve, reject) => (give = reject));
    this.waiting.add(give);
    try {
      return await Promise.race([work(), given]);
    } finally {
      this.waiting.delete(give);
    }
  }

  async stop(): Promise<void> {
    this.stopping = true;
    this.connection?.destroy();
    this.connection = null;
    await Promise.race([this.beating, pause(10)]);
  }
}

const silent = (what: string): Problem =>
  new Problem(503, 'database-silent', `The database is there and does not answer. ${what}`);
