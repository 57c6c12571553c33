import type { z } from 'zod';
import * as acts from '@tallystick/contract/acts';
import { displayName } from '@tallystick/core/names';
import { supporterNumber } from '@tallystick/core/supporters';
import { mayReach } from '@tallystick/core/wishes';
import type { Sql } from '../platform/db.ts';
import type { Http } from '../platform/http.ts';
import type { Settings } from '../settings/index.ts';
import { exportFile } from '../supporters/index.ts';
import type { SupporterLists } from '../supporters/index.ts';
import type { Addressees } from './addressees.ts';

type Use = Pick<z.output<typeof acts.checkExport.body>, 'for' | 'purpose'>;
interface Held {
  supporterId: number;
  number: string;
  name: string;
  reason: string;
}

/** Files of supporters. One for a mailing reaches whom the mailing would, by the same ways, and tells whom it leaves out. */
export class Files {
  constructor(
    private readonly sql: Sql,
    private readonly settings: Settings,
    private readonly addressees: Addressees,
    private readonly lists: SupporterLists,
  ) {}

  private async sorted(ids: readonly number[], use: Use): Promise<{ kept: number[]; held: Held[] }> {
    const { today } = await this.settings.calendar();
    const people = await this.addressees.load(ids);
    // Who looks through the trash wants what is in it.
    const trash = people.every(({ trashed }) => trashed);
    const kept: number[] = [];
    const held: Held[] = [];
    for (const person of people) {
      let reason: string | null = person.trashed && !trash ? 'in the trash' : null;
      if (use.for !== 'office') {
        const reach = mayReach(person, use.purpose, today, use.for);
        reason = 'held' in reach ? reach.held : null;
      }
      if (reason === null) kept.push(person.id);
      else
        held.push({
          supporterId: person.id,
          number: supporterNumber(person.id),
          name: displayName(person.name),
          reason,
        });
    }
    return { kept, held };
  }

  serve(http: Http): void {
    http.on(acts.checkExport, async ({ body }) => {
      const ids = await this.lists.selected(body.selection);
      const { held } = await this.sorted(ids, body);
      return { asked: ids.length, held: held.length, some: held.slice(0, 200) };
    });
    http.on(acts.exportSupporters, async ({ body, response }) => {
      const { today } = await this.settings.calendar();
      const { kept, held } = await this.sorted(await this.lists.selected(body.selection), body);
      const { name, type, bytes } = await exportFile({ sql: this.sql, lists: this.lists, today }, kept, body.as, held);
      response.attachment(name).type(type).send(bytes);
      return undefined;
    });
  }
}
