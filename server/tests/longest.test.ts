import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { z } from 'zod';
import { API } from '@tallystick/contract/index';
import type { AnyEndpoint } from '@tallystick/contract/endpoint';
import { LONGEST_LETTER } from '@tallystick/contract/outreach';
import { addGift, addPerson, openTestApp, TODAY } from './support.ts';
import type { TestApp } from './support.ts';

/* Every endpoint is asked with the longest and the largest that its contract takes; whatever it says, it is no fault of ours. */

let test: TestApp;
const known: Record<string, number> = {};
beforeAll(async () => {
  test = await openTestApp();
  known['person'] = await addPerson(test);
  known['gift'] = await addGift(test, known['person']);
  // Something of each kind, so that the first of it can be changed.
  const post = (path: string, body: object) => test.call('POST', path, body, { as: 'admin' });
  await post('/segments', { name: 'First', conditions: { kind: 'group', join: 'all', parts: [] } });
  await post('/mailings', { name: 'First', subject: 'First', body: LETTER, segmentId: 1 });
  await post('/pledges', {
    ...{ supporterId: known['person'], cents: 10_000, pledgedOn: TODAY, fundId: 1 },
    plan: { kind: 'once', start: TODAY },
  });
  await post('/notes', { supporterId: known['person'], date: TODAY, body: LETTER });
  await post('/tasks', { supporterId: known['person'], title: 'First', due: TODAY });
  await post('/sheets', { name: 'First', columns: ['wholeName', 'amount'].map((field) => ({ field, width: 120 })) });
  await post('/tags', { name: 'First' });
});
afterAll(() => test.close());

interface Json {
  $ref?: string;
  const?: unknown;
  enum?: unknown[];
  type?: string;
  pattern?: string;
  maxLength?: number;
  maximum?: number;
  maxItems?: number;
  properties?: Record<string, Json>;
  items?: Json;
  additionalProperties?: Json | boolean;
  propertyNames?: { enum?: string[] };
  anyOf?: Json[];
  oneOf?: Json[];
}

const LETTER = {
  type: 'doc',
  content: Array.from({ length: 4 }, () => ({
    type: 'paragraph',
    content: [{ type: 'text', text: '\u{1F319}'.repeat(LONGEST_LETTER / 10) }],
  })),
};
const GROUP = {
  ...{ kind: 'group', join: 'all' },
  parts: Array.from({ length: 50 }, () => ({
    ...{ kind: 'field', field: 'state' },
    test: { is: 'any-of', values: Array.from({ length: 100 }, (_, at) => `${at}`.padEnd(60, 'W')) },
  })),
};

/** The longest text of a name in a request; signs that need the most room in the database. */
function textOf(name: string, { maxLength = 40, pattern }: Json): string {
  if (/address$/i.test(name) && maxLength === 254) return `${'a'.repeat(60)}@${'b.'.repeat(90)}example.org`;
  if (/email/i.test(name)) return `${'a'.repeat(60)}@example.org`;
  if (maxLength === 10) return name === 'birthday' ? '1961-03-14' : TODAY;
  if (pattern?.includes('\\d')) return '1';
  return '\u{1F319}'.repeat(Math.floor(maxLength / 2));
}

/** The largest value of a shape; of several shapes the one at `pick`. */
function largest(schema: Json, name: string, pick: number, depth = 0, at = 0): unknown {
  if (depth > 14) return undefined;
  if (schema.$ref?.includes('LetterNode') || name === 'body') return LETTER;
  if (schema.$ref?.includes('Group') || name === 'conditions') return GROUP;
  if (schema.const !== undefined) return schema.const;
  if (schema.enum) return schema.enum[pick % schema.enum.length];
  const shapes = schema.oneOf ?? schema.anyOf;
  if (shapes) {
    const real = shapes.filter((shape) => shape.type !== 'null');
    return largest(real[pick % real.length] ?? {}, name, pick, depth + 1);
  }
  switch (schema.type) {
    case 'string':
      return at === 0 || schema.maxLength === 10 ? textOf(name, schema) : `${at}${textOf(name, schema).slice(2)}`;
    case 'integer':
    case 'number':
      if (/supporterId|^id$|matchedById|people|spouseId/i.test(name)) return known['person'];
      if (/giftId/i.test(name)) return known['gift'];
      if (/Id$|version/.test(name)) return 1;
      return Math.min(schema.maximum ?? 2_000_000_000, Number.MAX_SAFE_INTEGER);
    case 'boolean':
      return true;
    case 'array':
      return Array.from({ length: Math.min(schema.maxItems ?? 1, 12) }, (_, place) =>
        largest(schema.items ?? {}, name.replace(/s$/, ''), pick, depth + 1, place),
      );
    case 'object': {
      const own = Object.entries(schema.properties ?? {}).map(([key, inner]) => [
        key,
        largest(inner, key, pick, depth + 1, at),
      ]);
      if (typeof schema.additionalProperties === 'object' && own.length === 0)
        return Object.fromEntries(
          (schema.propertyNames?.enum ?? Array.from({ length: 40 }, (_, at) => `${at}`.padStart(12, '1'))).map(
            (key) => [key, largest(schema.additionalProperties as Json, name, pick, depth + 1)],
          ),
        );
      return Object.fromEntries(own);
    }
    default:
      return null;
  }
}

const shapeOf = (type: z.ZodType): Json =>
  z.toJSONSchema(type, { io: 'input', unrepresentable: 'any', cycles: 'ref', reused: 'inline' }) as Json;

/** Asks an endpoint with the largest of everything, in the shapes at `pick`; answers the status. */
async function ask(endpoint: AnyEndpoint, pick: number): Promise<{ status: number; text: string }> {
  const ids: Record<string, number | undefined> = { supporters: known['person'], gifts: known['gift'] };
  const [, first = ''] = endpoint.path.split('/');
  const path = endpoint.path.replace(/:(\w+)/g, (_, name: string) =>
    name === 'kind' ? 'funds' : String(ids[first] ?? 1),
  );
  const query = largest(shapeOf(endpoint.query), '', pick) as Record<string, unknown>;
  const words = new URLSearchParams(Object.entries(query).map(([name, value]) => [name, String(value)]));
  const body = endpoint.method === 'get' ? undefined : largest(shapeOf(endpoint.body), '', pick);
  return test.call(endpoint.method.toUpperCase(), `${path}?${words}`, body, { as: 'admin' });
}

const REACHED = new Set<string>();
// What would end the test's own session, take its records away or wait for ever.
const APART = ['emptyTrash', 'streamJobs', 'signOut', 'closePeriod'];
describe('the longest of everything', () => {
  const asked = API.filter((endpoint) => !APART.includes(endpoint.id) && !endpoint.consumes && !endpoint.signed);
  it.each(asked.map((endpoint) => [endpoint.id, endpoint] as const))('%s', async (id, endpoint) => {
    for (let pick = 0; pick < 6; pick++) {
      const { status, text } = await ask(endpoint, pick);
      expect([status < 500, text.slice(0, 300)]).toEqual([true, expect.any(String)]);
      if (status === 200) REACHED.add(id);
    }
  });

  it('is taken by many of them, not only refused', () => expect(REACHED.size).toBeGreaterThan(asked.length / 3));
});
