import type { MergeSubject } from '@tallystick/core/letters';
import type { SupporterKind } from '@tallystick/core/names';
import type { FactsThread } from '../facts/index.ts';
import { chunks } from '../platform/db.ts';
import type { Sql } from '../platform/db.ts';
import type { Settings } from '../settings/index.ts';

/** A supporter as a sending needs them: what is merged, how they are reached, and their wishes. */
export interface Addressee extends MergeSubject {
  email: string | null;
  emailId: number | null;
  emailBounced: boolean;
  noEmail: boolean;
  deceased: boolean;
  trashed: boolean;
  addressLines: string[];
}

interface Joined {
  id: number;
  kind: SupporterKind;
  prefix: string;
  first: string;
  middle: string;
  last: string;
  suffix: string;
  organization: string;
  no_email: number;
  deceased: number;
  trashed: number;
  email_id: number | null;
  email: string | null;
  bounced_on: string | null;
  street: string | null;
  city: string | null;
  region: string | null;
  postal: string | null;
  country: string | null;
}

/** Loads addressees in the order of the ids; ids that do not exist are left out. */
export class Addressees {
  constructor(
    private readonly sql: Sql,
    private readonly facts: FactsThread,
    private readonly settings: Settings,
  ) {}

  async load(ids: readonly number[]): Promise<Addressee[]> {
    const calendar = await this.settings.calendar();
    const found: Addressee[] = [];
    for (const slice of chunks(ids)) {
      const [rows, giving] = await Promise.all([
        this.sql.rows<Joined>(
          `SELECT s.*, e.id AS email_id, e.address AS email, e.bounced_on, a.street, a.city, a.region, a.postal, a.country FROM supporter s
           LEFT JOIN email e ON e.supporter_id = s.id AND e.preferred = 1 LEFT JOIN address a ON a.supporter_id = s.id AND a.preferred = 1
           WHERE s.id IN (?)`,
          [slice],
        ),
        this.facts.ask({ ask: 'giving', ids: slice, calendar }),
      ]);
      const byId = new Map(rows.map((row) => [row.id, row]));
      slice.forEach((id, index) => {
        const row = byId.get(id);
        if (row) found.push(addressee(row, giving[index]));
      });
    }
    return found;
  }
}

function addressee(row: Joined, giving: { lifetime: number; last: string | null } | undefined): Addressee {
  const { kind, prefix, first, middle, last, suffix, organization } = row;
  const town = [row.city, [row.region, row.postal].filter(Boolean).join(' ')].filter(Boolean).join(', ');
  return {
    id: row.id,
    name: { kind, prefix, first, middle, last, suffix, organization },
    lifetimeCents: giving?.lifetime ?? 0,
    lastGiftOn: giving?.last ?? null,
    email: row.email,
    emailId: row.email_id,
    emailBounced: row.bounced_on !== null,
    noEmail: row.no_email === 1,
    deceased: row.deceased === 1,
    trashed: row.trashed === 1,
    addressLines: [row.street ?? '', town, row.country ?? ''].filter(Boolean),
  };
}
