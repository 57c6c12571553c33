import { describe, expect, it } from 'vitest';
import { z } from 'zod';
import { API } from './index.ts';
import { ApiError, Id, IsoDateText, Paging } from './common.ts';
import { ROLES } from './endpoint.ts';
import { GiftDraft } from './gifts.ts';
import { LetterDoc } from './outreach.ts';
import { Group } from './segments.ts';
import { Password } from './session.ts';
import { SupporterDraft } from './supporters.ts';
import { AREAS_READ, isStale, writes } from './freshness.ts';

/** The paths at which a value is refused, or `ok`. */
const faults = (
  schema: { safeParse: (value: unknown) => { success: boolean; error?: { issues: { path: PropertyKey[] }[] } } },
  value: unknown,
): string =>
  (schema.safeParse(value).error?.issues ?? [])
    .map((issue) => issue.path.join('.'))
    .sort()
    .join(' ') || (schema.safeParse(value).success ? 'ok' : 'whole');

/** Where a shape takes a text, a list or a table of any length, by path. */
function endless(schema: Json, path: string): string[] {
  const { type, properties = {}, items, additionalProperties: values, anyOf = [], oneOf = [], allOf = [] } = schema;
  const bounded = ['enum', 'const', 'pattern', 'format', 'maxLength'].some((word) => word in schema);
  const here = {
    string: !bounded,
    array: schema.maxItems === undefined,
    object: typeof values === 'object' && schema.propertyNames?.maxLength === undefined && !schema.propertyNames?.enum,
  }[String(type)];
  return [
    ...(here ? [`${path} (${String(type)})`] : []),
    ...Object.entries(properties).flatMap(([name, inner]) => endless(inner, `${path}.${name}`)),
    ...(items ? endless(items, `${path}[]`) : []),
    ...(typeof values === 'object' ? endless(values, `${path}{}`) : []),
    ...[...anyOf, ...oneOf, ...allOf].flatMap((inner) => endless(inner, path)),
  ];
}
interface Json {
  type?: string;
  maxItems?: number;
  propertyNames?: { maxLength?: number; enum?: unknown };
  properties?: Record<string, Json>;
  items?: Json;
  additionalProperties?: Json | boolean;
  anyOf?: Json[];
  oneOf?: Json[];
  allOf?: Json[];
}

describe('every endpoint', () => {
  it.each(API.map((endpoint) => [endpoint.id, endpoint] as const))('%s takes nothing of any length', (_id, endpoint) =>
    expect(
      (['params', 'query', 'body'] as const).flatMap((part) =>
        endless(
          z.toJSONSchema(endpoint[part], {
            io: 'input',
            unrepresentable: 'any',
            cycles: 'ref',
            reused: 'inline',
          }) as Json,
          part,
        ),
      ),
    ).toEqual([]),
  );

  it('has an id and a place of its own', () => {
    expect(new Set(API.map((endpoint) => endpoint.id)).size).toBe(API.length);
    expect(new Set(API.map((endpoint) => `${endpoint.method} ${endpoint.path}`)).size).toBe(API.length);
  });
  it.each(API.map((endpoint) => [endpoint.id, endpoint] as const))('%s is whole', (_id, endpoint) => {
    expect(endpoint.path).toMatch(/^(\/[\w:.-]+)+$/);
    expect(endpoint.summary).toMatch(/^[A-Z].*\.$/);
    expect(['public', ...ROLES]).toContain(endpoint.role);
    const named = [...endpoint.path.matchAll(/:(\w+)/g)].map((match) => match[1]);
    const given = (value: string) => Object.fromEntries(named.map((name) => [name, value]));
    // Numbers and names are taken; where a place has its own words, the refusal is of the value, not of its absence.
    const refused = (endpoint.params.safeParse(given('7')).error?.issues ?? []).map((issue) => issue.code);
    expect(refused.every((code) => code === 'invalid_value')).toBe(true);
    if (named.length > 0) expect(endpoint.params.safeParse({}).success).toBe(false);
  });
  it('that changes something is never a GET', () => {
    for (const one of API.filter(({ role, right }) => role === 'read' && right !== 'self.change'))
      expect([one.id, one.method === 'get' || one.asks === true]).toEqual([one.id, true]);
    for (const one of API.filter(({ asks }) => asks)) expect([one.id, one.method]).toEqual([one.id, 'post']);
    for (const one of API.filter(({ method }) => method === 'get')) {
      const keys = one.body instanceof z.ZodObject ? Object.keys(one.body.shape) : ['?'];
      expect([one.id, keys]).toEqual([one.id, []]);
    }
  });
});

describe('what is stale after a write', () => {
  it('is known for every area, and an area is always stale after its own', () => {
    for (const { area } of API) {
      expect(AREAS_READ).toContain(area);
      expect([area, isStale(area, [area])]).toEqual([area, area !== 'jobs']);
      expect([area, isStale(area, ['*'])]).toEqual([area, area !== 'jobs']);
    }
  });
  it.each([
    ['supporters', ['letters'], true],
    ['letters', ['gifts', 'supporters'], false],
    ['gifts', ['recurring'], true],
    ['deposits', ['segments'], false],
    ['changes', ['letters'], true],
  ])('%s after %j: %s', (area, written, stale) => expect(isStale(area, written)).toBe(stale));
  it('counts no question as a write', () => {
    for (const endpoint of API.filter(({ method, asks }) => method === 'get' || asks))
      expect(writes(endpoint)).toBe(false);
  });
});

describe('drafts', () => {
  const gift = { supporterId: 1, cents: 100, date: '2026-11-01', fundId: 1 };
  it.each<[string, object, string]>([
    ['a good gift', gift, 'ok'],
    ['ids as text, as a form sends them', { ...gift, supporterId: '1', fundId: '2' }, 'ok'],
    ['no amount', { ...gift, cents: undefined }, 'cents'],
    ['a fraction', { ...gift, cents: 0.5 }, 'cents'],
    ['text for an amount', { ...gift, cents: '100' }, 'cents'],
    ['infinity', { ...gift, cents: Infinity }, 'cents'],
    ['no such day', { ...gift, date: '2026-02-30' }, 'date'],
    ['a long note', { ...gift, note: 'x'.repeat(1001) }, 'note'],
    ['several faults', { supporterId: 0, cents: -1, date: 'x', fundId: -3 }, 'cents date fundId supporterId'],
  ])('gift: %s', (_title, value, expected) => expect(faults(GiftDraft, value)).toBe(expected));

  it.each<[string, object, string]>([
    ['a person with a last name', { last: 'Cruz' }, 'ok'],
    ['a person without any', { prefix: 'Dr.' }, 'last'],
    ['spaces for a name', { first: '   ' }, 'last'],
    ['a household without one', { kind: 'household', last: 'Cruz' }, 'organization'],
    ['an organization', { kind: 'organization', organization: 'Cruz Bakery' }, 'ok'],
    ['an unknown kind', { kind: 'robot', last: 'C3' }, 'kind'],
    [
      'a broken e-mail among good ones',
      { last: 'C', emails: [{ address: 'a@example.org' }, { address: 'b@' }] },
      'emails.1.address',
    ],
    [
      'too many telephones',
      { last: 'C', phones: Array.from({ length: 101 }, () => ({ number: '555-0100' })) },
      'phones',
    ],
  ])('supporter: %s', (_title, value, expected) => expect(faults(SupporterDraft, value)).toBe(expected));

  it('fill in what is left out', () => {
    expect(SupporterDraft.parse({ last: ' Cruz ' })).toMatchObject({
      kind: 'person',
      last: 'Cruz',
      first: '',
      emails: [],
      addresses: [],
    });
    // Left out, not empty: what is on record stays.
    expect(SupporterDraft.parse({ last: 'Cruz' }).wishes).toBeUndefined();
    expect(GiftDraft.parse(gift)).toMatchObject({
      campaignId: null,
      appealId: null,
      method: 'cheque',
      cheque: '',
      note: '',
    });
  });
});

describe('trees', () => {
  const deep = (depth: number): unknown =>
    depth === 0 ? { kind: 'people', list: 1 } : { kind: 'group', join: 'all', parts: [deep(depth - 1)] };
  it('of conditions may be nested, and are checked all the way down', () => {
    expect(faults(Group, deep(6))).toBe('ok');
    expect(faults(Group, { kind: 'group', join: 'all', parts: [{ kind: 'group', join: 'nor', parts: [] }] })).not.toBe(
      'ok',
    );
    expect(
      faults(Group, {
        kind: 'group',
        join: 'any',
        parts: Array.from({ length: 51 }, () => ({ kind: 'people', list: 1 })),
      }),
    ).toBe('parts');
    const many = (groups: number, each: number) => ({
      ...{ kind: 'group', join: 'any' },
      parts: Array.from({ length: groups }, () => ({
        ...{ kind: 'group', join: 'any' },
        parts: Array.from({ length: each }, () => ({ kind: 'people', list: 1 })),
      })),
    });
    expect(faults(Group, many(5, 11))).toBe('ok');
    expect(faults(Group, many(5, 12))).toBe('whole');
    expect(faults(Group, deep(40))).toBe('whole');
    // Groups lie within conditions about somebody related too.
    const related = (depth: number): unknown => ({
      ...{ kind: 'group', join: 'none' },
      parts: depth === 0 ? [] : [{ kind: 'related', by: 'household', where: [], match: related(depth - 1) }],
    });
    expect([faults(Group, related(9)), faults(Group, related(10))]).toEqual(['ok', 'whole']);
  });
  it('of letters have an end', () => {
    const letter = (signs: number) => ({
      type: 'doc',
      content: Array.from({ length: 10 }, () => ({ type: 'text', text: 'x'.repeat(signs) })),
    });
    expect(faults(LetterDoc, letter(19_000))).toBe('ok');
    expect(faults(LetterDoc, letter(21_000))).toBe('whole');
  });
  it('of letters keep nodes that are not known', () => {
    const doc = {
      type: 'doc',
      content: [{ type: 'strange', attrs: { a: 1 }, content: [{ type: 'text', text: 'kept' }] }],
    };
    expect(LetterDoc.parse(doc)).toEqual(doc);
    expect(faults(LetterDoc, { type: 'doc', content: [{ text: 'no type' }] })).not.toBe('ok');
  });
});

describe('small parts', () => {
  it.each([
    ['2026-02-28', true],
    ['2024-02-29', true],
    ['2026-02-29', false],
    ['26-02-28', false],
    ['1000-01-01', false],
    ['2200-01-01', false],
    ['', false],
  ])('the date %j is %s', (date, good) => expect(IsoDateText.safeParse(date).success).toBe(good));
  it.each([
    [1, true],
    ['7', true],
    [true, false],
    [null, false],
    [0, false],
    ['1e3', false],
    ['-1', false],
    [1.5, false],
  ])('%j is an id: %s', (given, good) => expect(Id.safeParse(given).success).toBe(good));
  it.each([
    [{}, 100],
    [{ limit: '7' }, 7],
    [{ limit: 0 }, null],
    [{ limit: 1001 }, null],
    [{ limit: 'many' }, null],
  ])('paging %j asks for %s', (given, limit) => expect(Paging.safeParse(given).data?.limit ?? null).toBe(limit));
  it('passwords have twelve characters', () => {
    expect(Password.safeParse('12345678901').success).toBe(false);
    expect(Password.safeParse('123456789012').success).toBe(true);
  });
  it('errors have one shape', () => {
    expect(ApiError.safeParse({ error: { code: 'x', message: 'y', fields: { a: 'b' } } }).success).toBe(true);
    expect(ApiError.safeParse({ message: 'y' }).success).toBe(false);
  });
});
