import type { Said } from '@tallystick/contract/upkeep';
import type { Actor, Changes } from '../platform/changes.ts';
import type { Settings } from '../settings/index.ts';
import { Telling } from './telling.ts';

/** What an act says of itself, and what history calls it. */
export type Doing<S extends Said = Said> = S & { did: string };

/** An act that is said before it is done: its plan is the act itself, taken back. */
export class Planned<Asked, S extends Said = Said> {
  constructor(
    private readonly changes: Changes,
    private readonly settings: Settings,
    private readonly work: (telling: Telling, asked: Asked, actor: Actor) => Promise<Doing<S>>,
  ) {}

  async plan(actor: Actor, asked: Asked): Promise<Omit<Doing<S>, 'did'>> {
    const reason = { kind: 'edit', summary: 'Looked what follows' } as const;
    const { did: _did, ...said } = await this.changes.rehearse(actor, reason, async (tx) =>
      this.work(await Telling.begin(tx, this.settings), asked, actor),
    );
    return said;
  }

  /** Does it, as one change set. */
  async carryOut(actor: Actor, asked: Asked) {
    let summary = '';
    const reason = { kind: 'edit', summary: () => summary } as const;
    const { revision, result } = await this.changes.write(actor, reason, async (tx) => {
      const { says, did } = await this.work(await Telling.begin(tx, this.settings), asked, actor);
      summary = did;
      return { says };
    });
    return { revision, ...result };
  }
}
