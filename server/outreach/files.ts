import type { z } from 'zod';
import * as acts from '@tallystick/contract/acts';
import { formatDate } from '@tallystick/core/dates';
import { formatMoney } from '@tallystick/core/money';
import { displayName } from '@tallystick/core/names';
import type { NameParts } from '@tallystick/core/names';
import { supporterNumber } from '@tallystick/core/supporters';
import { mayReach } from '@tallystick/core/wishes';
import { counted } from '@tallystick/core/words';
import { labelsPdf, tablePdf } from '../letters/index.ts';
import type { LabelSheet } from '../letters/index.ts';
import { lastRevision } from '../platform/changes.ts';
import { toComeBack } from '../platform/csv.ts';
import type { CellKind, TableFile } from '../platform/csv.ts';
import { chunks } from '../platform/db.ts';
import type { Sql } from '../platform/db.ts';
import type { Http } from '../platform/http.ts';
import { Problem } from '../platform/problem.ts';
import { XLSX } from '../platform/workbook.ts';
import type { Settings } from '../settings/index.ts';
import { exportFile, trashedOf, withHeld } from '../supporters/index.ts';
import type { SupporterLists, Trashed } from '../supporters/index.ts';
import type { Addressee, Addressees } from './addressees.ts';

type Use = Pick<z.output<typeof acts.checkExport.body>, 'for' | 'purpose'>;
interface Held {
  supporterId: number;
  number: string;
  name: string;
  reason: string;
}

interface Sorted {
  kept: number[];
  /** The same as they are reached, where it is for a use that reaches them. */
  people: Addressee[];
  held: Held[];
}

/** Files of supporters. One for a mailing reaches whom the mailing would, by the same ways, and tells whom it leaves out. */
export class Files {
  constructor(
    private readonly sql: Sql,
    private readonly settings: Settings,
    private readonly addressees: Addressees,
    private readonly lists: SupporterLists,
  ) {}

  private async sorted(ids: readonly number[], use: Use): Promise<Sorted> {
    const kept: number[] = [];
    const people: Addressee[] = [];
    const held: Held[] = [];
    const put = (id: number, name: NameParts, reason: string | null): void => {
      if (reason === null) kept.push(id);
      else held.push({ supporterId: id, number: supporterNumber(id), name: displayName(name), reason });
    };
    if (use.for === 'office') {
      const trashed = new Map<number, Trashed>();
      for (const slice of chunks(ids)) for (const row of await trashedOf(this.sql, slice)) trashed.set(row.id, row);
      // Who looks through the trash wants what is in it.
      const asked = trashed.size === ids.length;
      for (const id of ids) {
        const row = trashed.get(id);
        if (row && !asked) put(id, row, 'in the trash');
        else kept.push(id);
      }
      return { kept, people, held };
    }
    const { today } = await this.settings.calendar();
    for (const person of await this.addressees.load(ids)) {
      const reach = mayReach(person, use.purpose, today, use.for);
      put(person.id, person.name, 'held' in reach ? reach.held : null);
      if (!('held' in reach)) people.push(person);
    }
    return { kept, people, held };
  }

  /** Whom to call as a workbook, to be written in and brought back: amounts and days are what they are, those held back on a sheet of their own. */
  private async callBook(ids: readonly number[], held: readonly Held[]): Promise<Buffer> {
    const revision = await lastRevision(this.sql);
    const rows = await this.lists.rowsFor(ids);
    const column = (heading: string, kind: CellKind = 'text') => ({ heading, kind });
    const table: TableFile = {
      columns: [
        ...[column('Number'), column('Name'), column('Telephone'), column('Town')],
        ...[column('Given', 'money'), column('Last gift', 'day')],
        ...[column('What came of it'), column('Note on the call'), column('Day of the call', 'day')],
        ...[column('No calls'), column('Pledge amount', 'money'), column('Pledge date', 'day')],
      ],
      rows: rows.map(({ name, number, phone, city, giving }) => [
        ...[number, name, phone, city, giving.lifetime, giving.last, null, null, null, null, null, null],
      ]),
    };
    return withHeld('Calls', toComeBack(table, revision), held);
  }

  /** Whom to call, with what they gave, and room to write what came of it. */
  private async callSheet(ids: readonly number[], held: number): Promise<Buffer> {
    const [rows, formats, { today }] = await Promise.all([
      this.lists.rowsFor(ids),
      this.settings.formats(),
      this.settings.calendar(),
    ]);
    const column = (heading: string, share: number, right = false) => ({ heading, share, right });
    return tablePdf({
      title: 'Calls',
      facts: [
        `${counted(rows.length, 'supporter')}, ${formatDate(today, formats)}`,
        ...(held > 0 ? [`${counted(held, 'supporter')} not to be called, or without a telephone, left out`] : []),
      ],
      columns: [
        ...[column('Name', 22), column('Number', 9), column('Telephone', 15), column('Town', 13)],
        ...[column('Given', 11, true), column('Last gift', 11, true), column('What came of it', 30)],
      ],
      rows: rows.map(({ name, number, phone, city, giving }) => [
        ...[name, number, phone ?? '', city, formatMoney(giving.lifetime, formats)],
        giving.last === null ? '' : formatDate(giving.last, formats),
      ]),
      ...{ sums: [], landscape: true, tall: 34 },
    });
  }

  serve(http: Http): void {
    http.on(acts.checkExport, async ({ body }) => {
      const ids = await this.lists.selected(body.selection);
      const { held } = await this.sorted(ids, body);
      return { asked: ids.length, held: held.length, some: held.slice(0, 200) };
    });
    http.on(acts.exportSupporters, async ({ body, response }) => {
      const { today } = await this.settings.calendar();
      const { kept, people, held } = await this.sorted(await this.lists.selected(body.selection), body);
      const { as } = body;
      if (as === 'labels30' || as === 'labels10') {
        if (body.for !== 'mail') throw new Problem(400, 'invalid', 'Labels are for writing by post.');
        response
          .attachment('labels.pdf')
          .type('application/pdf')
          .send(await labelsOf(people, as === 'labels30' ? 30 : 10));
      } else if (as === 'calls' || as === 'callbook') {
        if (body.for !== 'call') throw new Problem(400, 'invalid', 'A call sheet is for calling.');
        const book = as === 'callbook';
        response
          .attachment(book ? 'calls.xlsx' : 'calls.pdf')
          .type(book ? XLSX : 'application/pdf')
          .send(await (book ? this.callBook(kept, held) : this.callSheet(kept, held.length)));
      } else {
        const parts = { sql: this.sql, lists: this.lists, today };
        const { name, type, bytes } = await exportFile(parts, kept, as, held, body.back);
        response.attachment(name).type(type).send(bytes);
      }
      return undefined;
    });
  }
}

const labelsOf = (people: readonly Addressee[], sheet: LabelSheet): Promise<Buffer> =>
  labelsPdf({ sheet, labels: people.map(({ addressing, addressLines }) => [addressing.addressee, ...addressLines]) });
