import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { all, tagged } from '@tallystick/core/segments';
import type { Wish } from '@tallystick/core/wishes';
import { addGift, addPerson, FakeMailer, LETTER, openTestApp, readAnew } from '../tests/support.ts';
import type { TestApp } from '../tests/support.ts';

/* Every sending obeys what supporters asked for, and shows whom that held back. */

let test: TestApp;
const mailer = new FakeMailer();
beforeAll(async () => {
  test = await openTestApp({ mailer });
});
afterAll(() => test.close());

let tag = 0;
/** An e-mail to people with these details, asking for gifts when it belongs to an appeal. */
async function mailingTo(people: object[], appealId: number | null): Promise<{ id: number; ids: number[] }> {
  const name = `Sending ${++tag}`;
  const ids: number[] = [];
  for (const person of people) ids.push(await addPerson(test, { ...person, tags: [name] }));
  const tags = (await test.call('GET', '/choices')).body['tags'] as { id: number; name: string }[];
  const conditions = all(tagged(tags.find((one) => one.name === name)?.id ?? 0));
  const segment = await test.call('POST', '/segments', { name, conditions });
  const draft = { name, subject: 'Hello', body: LETTER, segmentId: segment.body['id'], appealId };
  return { id: Number((await test.call('POST', '/mailings', draft)).body['id']), ids };
}
const check = async (id: number) =>
  (await test.call('GET', `/mailings/${id}/recipients`)).body as unknown as {
    recipients: { supporterId: number; address: string }[];
    held: { supporterId: number; reason: string }[];
  };
const wishing = (kind: Wish) => ({ wishes: [{ kind }] });

describe('an e-mail', () => {
  const people: [Wish, string | null, string | null][] = [
    ['no_email', 'wants no e-mail', 'wants no e-mail'],
    ['no_mail', null, null],
    ['no_calls', null, null],
    ['no_solicitation', 'does not want to be asked', null],
    ['receipts_only', 'wants receipts only', 'wants receipts only'],
    ['once_a_year', null, null],
    ['anonymous', null, null],
    ['deceased', 'deceased', 'deceased'],
  ];
  it.each([
    ['of an appeal', 1, 1],
    ['with news', null, 2],
  ] as const)('%s holds back whom it should, with the reason', async (_kind, appealId, column) => {
    const { id, ids } = await mailingTo(
      people.map(([wish]) => wishing(wish)),
      appealId,
    );
    const { recipients, held } = await check(id);
    const reasons = ids.map((one) => held.find((line) => line.supporterId === one)?.reason ?? null);
    expect(reasons).toEqual(people.map((row) => row[column]));
    expect(recipients).toHaveLength(reasons.filter((reason) => reason === null).length);
  });

  it('goes once a year to who wants it so', async () => {
    const first = await mailingTo([wishing('once_a_year')], null);
    const { body } = await test.call('POST', `/mailings/${first.id}/send`, { expected: 1 });
    await test.jobEnd(Number(body['jobId']));
    expect((await check(first.id)).held).toMatchObject([{ reason: 'was written to within a year' }]);
    await test.sql.run(
      `UPDATE delivery SET at = '2025-11-01 12:00:00.000' WHERE source_kind = 'mailing' AND source_id = ?`,
      [first.id],
    );
    await readAnew(test);
    expect((await check(first.id)).held).toEqual([]);
  });

  it('goes to the e-mail that works, and to none that is over or to come', async () => {
    const way = (address: string, more: object) => ({ address, ...more });
    const { id } = await mailingTo(
      [
        { emails: [way('bad@example.org', { preferred: true, badOn: '2026-01-01' }), way('good@example.org', {})] },
        { emails: [way('only-bad@example.org', { preferred: true, badOn: '2026-01-01' })] },
        { emails: [way('over@example.org', { preferred: true, validTo: '2026-11-22' })] },
        { emails: [way('to-come@example.org', { preferred: true, validFrom: '2026-11-24' })] },
      ],
      null,
    );
    const { recipients, held } = await check(id);
    expect(recipients.map((one) => one.address)).toEqual(['good@example.org']);
    expect(held.map((one) => one.reason)).toEqual(['e-mail bounced', 'no e-mail address', 'no e-mail address']);
  });

  it('greets by the text written by hand, and a household by its people', async () => {
    const household = { kind: 'household', organization: 'The Park Home', members: [{ name: 'Lee and Jo Park' }] };
    const { id } = await mailingTo(
      [{ first: 'Ana', addressing: { salutationInformal: 'Anita dear' } }, household],
      null,
    );
    mailer.messages.length = 0;
    const { body } = await test.call('POST', `/mailings/${id}/send`, { expected: 2 });
    await test.jobEnd(Number(body['jobId']));
    const greetings = mailer.messages.map((message) => /Dear [^,]+/.exec(message.text)?.[0]).sort();
    expect(greetings).toEqual(['Dear Anita dear', 'Dear Lee and Jo']);
  });
});

describe('a printed receipt', () => {
  it('goes to the address of the season, in the order of its country', async () => {
    const addresses = [
      { street: '1 Home St', city: 'Ely', region: 'NV', postal: '89301', preferred: true },
      {
        street: 'Sternweg 4',
        city: 'Köln',
        postal: '50667',
        country: 'Germany',
        seasonFrom: '11-01',
        seasonTo: '03-31',
      },
    ];
    const person = await addPerson(test, { prefix: 'Dr.', first: 'Ada', last: 'Farr', emails: [], addresses });
    const gift = await addGift(test, person);
    await test.call('POST', '/thanks/issue', { letterId: 1, giftIds: [gift] });
    const [row] = await test.sql.rows<{ content: string }>('SELECT content FROM receipt WHERE gift_id = ?', [gift]);
    const content = JSON.parse(row?.content ?? '{}') as { addressee: string[] };
    expect(content.addressee).toEqual(['Dr. Ada Farr', 'Sternweg 4', '50667 Köln', 'GERMANY']);
  });
});
