import type { MigrationInterface, QueryRunner } from 'typeorm';

/*
 * Questions about gifts may ask for source code, batch, thanks and recurrence: the index that facts are read by holds
 * them. Segments say whose giving counts, whose they are, and what they are for; lists of people are kept; and
 * conditions are written in the shapes that the catalogue knows, meaning what they meant.
 */

const STEPS = [
  `ALTER TABLE gift DROP KEY gift_facts, ADD KEY gift_facts (supporter_id, date, cents, fund_id, campaign_id, appeal_id,
    split, method, source_code_id, batch_id, recurring_id, acknowledged_on)`,
  `ALTER TABLE segment ADD COLUMN credit VARCHAR(12) NOT NULL DEFAULT 'legal', ADD COLUMN note VARCHAR(1000) NOT NULL DEFAULT '',
    ADD COLUMN folder VARCHAR(80) NOT NULL DEFAULT '', ADD COLUMN owner_id INT UNSIGNED NULL,
    ADD COLUMN shared TINYINT NOT NULL DEFAULT 1`,
  `CREATE TABLE segment_count (segment_id INT UNSIGNED NOT NULL, day DATE NOT NULL, people INT UNSIGNED NOT NULL,
    PRIMARY KEY (segment_id, day), FOREIGN KEY (segment_id) REFERENCES segment (id) ON DELETE CASCADE)`,
  `CREATE TABLE segment_favourite (user_id INT UNSIGNED NOT NULL, segment_id INT UNSIGNED NOT NULL,
    PRIMARY KEY (user_id, segment_id), FOREIGN KEY (segment_id) REFERENCES segment (id) ON DELETE CASCADE,
    FOREIGN KEY (user_id) REFERENCES user (id) ON DELETE CASCADE)`,
  `CREATE TABLE people_list (id INT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY, name VARCHAR(120) NOT NULL,
    made_on DATE NOT NULL, maker VARCHAR(120) NOT NULL, members LONGBLOB NOT NULL, many INT UNSIGNED NOT NULL,
    unknown MEDIUMTEXT NOT NULL)`,
];

type Tree = Record<string, unknown>;

const someRows = (of: string, where: Tree[], not: unknown): Tree => ({
  ...{ kind: 'rows', of, where, measure: 'number', test: { is: 'between', atLeast: 1, atMost: null } },
  ...(not ? { not: true } : {}),
});
const anyOf = (part: string, ...values: unknown[]): Tree => ({
  part,
  test: { is: 'any-of', values: values.map(String) },
});

/** The gifts that a condition asked about. */
function giftsOf({ fund, campaign, appeal, method, window, cents }: Tree): Tree[] {
  const places = Object.entries({ fund, campaign, appeal, method });
  return [
    ...places.flatMap(([part, value]) => (value === null || value === undefined ? [] : [anyOf(part, value)])),
    ...(cents ? [{ part: 'cents', test: { is: 'between', ...(cents as Tree) } }] : []),
    ...((window as Tree)['kind'] === 'ever' ? [] : [{ part: 'day', test: { is: 'in', window } }]),
  ];
}

/** A span of dates of which either end may be open. */
function spanTest(from: unknown, to: unknown): Tree {
  if (from === null && to === null) return { is: 'filled' };
  const kind =
    from === null ? { kind: 'until', to } : to === null ? { kind: 'since', from } : { kind: 'between', from, to };
  return { is: 'in', window: kind };
}

function fieldTest(test: Tree): Tree {
  if (test['is'] === 'contains') return { is: 'contains', values: [test['text']] };
  return test['is'] === 'dates' ? spanTest(test['from'], test['to']) : test;
}

/** A part of a segment as it was written before, in the shapes of now. */
export function renewed(part: Tree): Tree {
  const not = part['not'] ? { not: true } : {};
  switch (part['kind']) {
    case 'group':
      return { ...part, parts: (part['parts'] as Tree[]).map(renewed) };
    case 'region':
      return { kind: 'field', field: 'state', test: { is: 'any-of', values: part['regions'] }, ...not };
    case 'kind':
      return { kind: 'field', field: 'kind', test: { is: 'any-of', values: part['kinds'] }, ...not };
    case 'tag':
      return someRows('tags', [anyOf('tag', part['tag'])], part['not']);
    case 'in-group':
      return someRows('groups', [anyOf('group', part['group'])], part['not']);
    case 'wish':
      return someRows('wishes', [anyOf('kind', part['wish'])], part['not']);
    case 'gave':
      return someRows('gifts', giftsOf(part), part['not']);
    case 'total': {
      const credit = part['credit'] ? { credit: part['credit'] } : {};
      const test = { is: 'between', atLeast: part['atLeast'], atMost: part['atMost'] };
      return { kind: 'rows', of: 'gifts', where: giftsOf(part), measure: 'sum', test, ...credit, ...not };
    }
    case 'last-gift':
      return {
        kind: 'rows',
        of: 'gifts',
        where: [],
        measure: 'last',
        test: spanTest(part['from'], part['to']),
        ...not,
      };
    case 'gifts': {
      const { measure, within, against, atLeast = null, atMost = null } = part;
      const isDate = measure === 'first' || measure === 'last';
      const date = within ? { is: 'in', window: within } : { is: 'filled' };
      const test = isDate ? date : { is: 'between', atLeast, atMost };
      const from = against ? { against } : {};
      return { kind: 'rows', of: 'gifts', where: giftsOf(part), measure, test, ...from, ...not };
    }
    case 'field':
    case 'gift-field': {
      const field = `${part['kind'] === 'field' ? 'own' : 'gift-own'}:${String(part['field'])}`;
      return { kind: 'field', field, test: fieldTest(part['test'] as Tree), ...not };
    }
    default:
      return part;
  }
}

export class Questions1791300000000 implements MigrationInterface {
  name = 'Questions1791300000000';

  async up(runner: QueryRunner): Promise<void> {
    for (const sql of STEPS) await runner.query(sql);
    const segments = (await runner.query('SELECT id, conditions FROM segment')) as { id: number; conditions: string }[];
    for (const { id, conditions } of segments) {
      const now = JSON.stringify(renewed(JSON.parse(conditions) as Tree));
      await runner.query('UPDATE segment SET conditions = ? WHERE id = ?', [now, id]);
    }
  }

  async down(): Promise<void> {
    throw new Error('Restore a dump made before this migration.');
  }
}
