import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { all, anyOf, rows, stateIs } from '@tallystick/core/segments';
import { addGift, addPerson, FakeMailer, openTestApp, until, recordOf, TESTER, TODAY } from '../tests/support.ts';
import type { TestApp } from '../tests/support.ts';
import { readSealed, sealed } from './sealed.ts';

let test: TestApp;
const mailer = new FakeMailer();
beforeAll(async () => {
  test = await openTestApp({ mailer });
});
afterAll(() => test.close());
beforeEach(() => {
  mailer.messages.length = 0;
  mailer.answer = () => ({ kind: 'sent' });
});

const BODY = {
  type: 'doc',
  content: [
    {
      type: 'paragraph',
      content: [
        { type: 'text', text: 'Dear ' },
        { type: 'mergeField', attrs: { field: 'first', fallback: 'friend' } },
        { type: 'text', text: ', last: ' },
        { type: 'mergeField', attrs: { field: 'lastGiftDate', fallback: '' } },
      ],
    },
  ],
};
type Sent = { openedAt: string | null };
let group = 0;
/** A segment of its own with these people, and a draft to it. */
async function draftFor(people: Record<string, unknown>[]): Promise<{ mailing: number; ids: number[] }> {
  const region = `R${++group}`;
  const ids: number[] = [];
  for (const [index, person] of people.entries())
    ids.push(
      await addPerson(test, {
        first: `F${index}`,
        last: `L${index}`,
        emails: [{ address: `g${group}p${index}@example.org` }],
        addresses: [{ region }],
        ...person,
      }),
    );
  const conditions = all(stateIs(region));
  const segment = await test.call('POST', '/segments', { name: region, conditions });
  const made = await test.call('POST', '/mailings', {
    name: `To ${region}`,
    subject: 'Hello {first|friend}',
    body: BODY,
    segmentId: segment.body['id'],
  });
  return { mailing: Number(made.body['id']), ids };
}
const send = (mailing: number, expected: number) => test.call('POST', `/mailings/${mailing}/send`, { expected });
const counts = async (mailing: number) =>
  (await test.call('GET', `/mailings/${mailing}`)).body['counts'] as {
    reached: number;
    waiting: number;
    notReached: number;
    held: number;
  };

/** The messages of a mailing that are in a state. */
const outcomes = async (mailing: number, state: string) =>
  (
    (await test.call('GET', `/mailings/${mailing}/deliveries`)).body['items'] as {
      id: number;
      state: string;
      detail: string;
      supporterId: number;
    }[]
  ).filter((row) => row.state === state);

describe('an e-mail to a segment', () => {
  it('goes to everyone not held back, once each, and every record shows it', async () => {
    const { mailing, ids } = await draftFor([
      { first: 'Ana' },
      { first: '', last: 'NoFirst' },
      { wishes: [{ kind: 'no_email' }] },
      { wishes: [{ kind: 'deceased' }] },
      { emails: [] },
    ]);
    const check = (await test.call('GET', `/mailings/${mailing}/recipients`)).body as unknown as {
      recipients: { supporterId: number }[];
      held: { supporterId: number; reason: string }[];
    };
    expect(check.recipients.map((one) => one.supporterId)).toEqual(ids.slice(0, 2));
    expect(check.held.map((one) => one.reason)).toEqual(['wants no e-mail', 'deceased', 'no e-mail address']);

    const { body } = await send(mailing, 2);
    expect(await test.jobEnd(Number(body['jobId']))).toMatchObject({ state: 'done', message: '2 reached' });
    expect(mailer.messages.map((message) => message.subject).sort()).toEqual(['Hello Ana', 'Hello friend']);
    const message = mailer.messages.find((one) => one.subject === 'Hello Ana');
    expect(message?.html).toContain('<p>Dear Ana, last: </p>');
    expect(message?.text).toContain('Dear Ana');
    expect(message?.headers?.['List-Unsubscribe-Post']).toBe('List-Unsubscribe=One-Click');
    expect(new Set(mailer.messages.map((one) => one.messageId)).size).toBe(2);
    expect(await counts(mailing)).toEqual({ reached: 2, opened: 0, waiting: 0, notReached: 0, held: 3 });
    const sent = (await test.call('GET', `/supporters/${ids[0]}/correspondence`)).body['items'] as {
      state: string;
      sourceKind: string;
      sourceId: number;
    }[];
    expect(sent).toMatchObject([{ state: 'sent', sourceKind: 'mailing', sourceId: mailing }]);
    // Segments know what became of it.
    const asked = async (outcome: string): Promise<unknown> => {
      const conditions = all(rows('sendings', [anyOf('subject', mailing), anyOf('outcome', outcome)]));
      return (await test.call('POST', '/segments/count', { conditions })).body['count'];
    };
    expect([await asked('sent'), await asked('held'), await asked('queued')]).toEqual([2, 3, 0]);
    const held = (await test.call('GET', `/supporters/${ids[2]}/correspondence`)).body['items'];
    expect(held).toMatchObject([{ state: 'held', detail: 'wants no e-mail' }]);
    expect((await test.call('GET', `/mailings/${mailing}`)).body['state']).toBe('sent');
  });

  it('is not sent to another number than was shown, nor twice, nor changed afterwards', async () => {
    const { mailing, ids } = await draftFor([{}, {}]);
    expect((await send(mailing, 3)).body['error']).toMatchObject({
      code: 'recipients-changed',
      message: expect.stringContaining('now go to 2, not 3'),
    });
    const both = await Promise.all([send(mailing, 2), send(mailing, 2)]);
    expect(both.map((one) => one.status).sort()).toEqual([200, 409]);
    const sent = both.find((one) => one.status === 200);
    await test.jobEnd(Number(sent?.body['jobId']));
    expect(mailer.messages).toHaveLength(ids.length);
    const draft = { name: 'x', subject: 'x', body: BODY, segmentId: null };
    const { version } = (await test.call('GET', `/mailings/${mailing}`)).body as unknown as { version: number };
    expect((await test.call('PUT', `/mailings/${mailing}`, { ...draft, version })).body['error']).toMatchObject({
      code: 'already-sent',
    });
    const undo = await test.call('POST', `/changes/${String(sent?.body['revision'])}/undo`, {});
    expect(undo.body['error']).toMatchObject({
      code: 'not-undoable',
      message: expect.stringContaining('messages went out'),
    });
  });

  it('is not kept with a merge field that there is not, and can be taken away until it is sent', async () => {
    const draft = { name: 'Odd', subject: 'Hello {constructor}', body: BODY, segmentId: null };
    const refused = await test.call('POST', '/mailings', draft);
    expect([refused.status, refused.text]).toEqual([400, expect.stringContaining('{constructor}')]);
    const { id } = (await test.call('POST', '/mailings', { ...draft, subject: 'Hello' })).body as unknown as {
      id: number;
    };
    expect((await test.call('PUT', `/mailings/${id}`, { ...draft, version: 1 })).status).toBe(400);
    expect((await test.call('DELETE', `/mailings/${id}`)).status).toBe(200);
    expect((await test.call('GET', `/mailings/${id}`)).status).toBe(404);
    const { mailing } = await draftFor([{}]);
    const { body } = await send(mailing, 1);
    await test.jobEnd(Number(body['jobId']));
    expect((await test.call('DELETE', `/mailings/${mailing}`)).body['error']).toMatchObject({ code: 'already-sent' });
    const { segmentId } = (await test.call('GET', `/mailings/${mailing}`)).body;
    expect((await test.call('DELETE', `/segments/${String(segmentId)}`)).body['error']).toMatchObject({
      code: 'in-use',
    });
  });

  it('and a letter and a segment that cannot be read take no list away', async () => {
    const { mailing } = await draftFor([{}]);
    const segmentId = Number((await test.call('GET', `/mailings/${mailing}`)).body['segmentId']);
    const deep = `${'{"type":"x","content":['.repeat(900)}${']}'.repeat(900)}`;
    await test.sql.run('UPDATE mailing SET body = ? WHERE id = ?', [deep, mailing]);
    await test.sql.run('UPDATE letter SET body = ? WHERE id = 1', [deep]);
    await test.sql.run('UPDATE segment SET conditions = ? WHERE id = ?', ['{"kind":"gro', segmentId]);
    for (const path of ['/mailings', '/letters', '/segments']) expect((await test.call('GET', path)).status).toBe(200);
    expect((await test.call('GET', `/segments/${segmentId}`)).body['count']).toBe(0);
    expect(
      (await test.call('POST', '/mailings', { name: 'x', subject: 'x', body: JSON.parse(deep), segmentId: null }))
        .status,
    ).toBe(400);
    await test.sql.run('DELETE FROM mailing WHERE id = ?', [mailing]);
    expect((await test.call('DELETE', `/segments/${segmentId}`)).status).toBe(200);
    expect((await test.call('DELETE', '/letters/1')).status).toBe(200);
  });

  it('is previewed for anyone, with what stays empty', async () => {
    const id = await addPerson(test, { first: 'Prev', last: 'Iew' });
    const { body } = await test.call('POST', '/mailings/preview', {
      subject: 'Hello {first|friend}',
      body: BODY,
      supporterId: id,
    });
    expect(body).toMatchObject({ subject: 'Hello Prev', missing: ['lastGiftDate'] });
    expect(mailer.messages).toHaveLength(0);
  });
});

describe('when mail does not arrive', () => {
  it('a bounce is listed, marks the address, and holds it back next time', async () => {
    const { mailing, ids } = await draftFor([{}, {}]);
    mailer.answer = (message) =>
      message.to.includes('p1@') ? { kind: 'bounced', reason: '550 unknown here' } : { kind: 'sent' };
    const { body } = await send(mailing, 2);
    expect(await test.jobEnd(Number(body['jobId']))).toMatchObject({ message: '1 reached, 1 not reached' });
    const rows = (await test.call('GET', `/mailings/${mailing}/deliveries`)).body['items'] as {
      state: string;
      detail: string;
      supporterId: number;
    }[];
    expect(rows.find((row) => row.supporterId === ids[1])).toMatchObject({
      state: 'bounced',
      detail: '550 unknown here',
    });
    const { emails } = await recordOf(test, ids[1] ?? 0);
    expect(emails[0]).toMatchObject({ badOn: '2026-11-23', badReason: 'bounced' });
    const copy = await test.call('POST', '/mailings', {
      name: 'Again',
      subject: 'Hi',
      body: BODY,
      segmentId: (await test.call('GET', `/mailings/${mailing}`)).body['segmentId'],
    });
    const check = (await test.call('GET', `/mailings/${String(copy.body['id'])}/recipients`)).body['held'] as {
      reason: string;
    }[];
    expect(check.map((one) => one.reason)).toEqual(['e-mail bounced']);
  });

  it('a mail server that is down makes the job wait, say so, and lose nothing', async () => {
    const { mailing } = await draftFor([{}, {}, {}]);
    let down = true;
    mailer.answer = () => (down ? { kind: 'later', reason: 'connect ECONNREFUSED' } : { kind: 'sent' });
    const { body } = await send(mailing, 3);
    const jobId = Number(body['jobId']);
    await until(async () => (await test.services.jobs.get(jobId)).state === 'waiting');
    expect(await test.services.jobs.get(jobId)).toMatchObject({
      message: expect.stringContaining('Nothing is lost; trying again in 5 s'),
    });
    expect(await counts(mailing)).toMatchObject({ reached: 0, waiting: 3 });
    down = false;
    expect(await test.jobEnd(jobId)).toMatchObject({ state: 'done', message: '3 reached' });
    expect(mailer.messages).toHaveLength(3);
  });

  it('one who is busy waits alone, and after a day is not reached, with the address none the worse', async () => {
    const { mailing, ids } = await draftFor([{}, {}, {}]);
    let asked = 0;
    mailer.answer = (message) => {
      if (!message.to.includes('p0@')) return { kind: 'sent' };
      asked++;
      return { kind: 'busy', reason: '451 later' };
    };
    const { body } = await send(mailing, 3);
    const jobId = Number(body['jobId']);
    await until(async () => (await test.services.jobs.get(jobId)).state === 'waiting');
    expect(await counts(mailing)).toMatchObject({ reached: 2, waiting: 1 });
    expect((await test.services.jobs.get(jobId)).message).toContain('1 could not be reached yet');
    const pauses: number[] = [];
    for (let tries = 1; tries <= 7; tries++) {
      expect(asked).toBe(tries);
      const [row] = await test.sql.rows<{ minutes: number }>(
        `SELECT ROUND(TIMESTAMPDIFF(SECOND, at, due_at) / 60) AS minutes FROM delivery WHERE state = 'queued' AND source_id = ?`,
        [mailing],
      );
      pauses.push(Number(row?.minutes));
      await test.sql.run(`UPDATE delivery SET due_at = UTC_TIMESTAMP(3) WHERE state = 'queued' AND source_id = ?`, [
        mailing,
      ]);
      await test.sql.run('UPDATE job SET run_after = UTC_TIMESTAMP(3) WHERE id = ?', [jobId]);
      await until(async () => asked === tries + 1);
      await until(async () => (await test.services.jobs.get(jobId)).state !== 'running');
    }
    expect(pauses.reduce((sum, minutes) => sum + minutes, 0)).toBe(24 * 60);
    expect([...pauses].sort((a, b) => a - b)).toEqual(pauses);
    expect(await test.jobEnd(jobId)).toMatchObject({ state: 'done', message: '2 reached, 1 not reached' });
    const [row] = await outcomes(mailing, 'failed');
    expect(row).toMatchObject({ supporterId: ids[0], detail: 'Tried for a day. 451 later' });
    expect((await recordOf(test, ids[0] ?? 0)).emails[0]).toMatchObject({ badOn: null });
  });

  it('one who is busy after the server was down for long has a whole day still', async () => {
    const { mailing } = await draftFor([{}]);
    let [down, asked] = [true, 0];
    mailer.answer = () => {
      asked++;
      return down ? { kind: 'later', reason: 'connect ECONNREFUSED' } : { kind: 'busy', reason: '451 later' };
    };
    const jobId = Number((await send(mailing, 1)).body['jobId']);
    for (let tries = 1; tries <= 9; tries++) {
      await until(async () => asked === tries && (await test.services.jobs.get(jobId)).state === 'waiting');
      down = tries < 8;
      if (tries < 9) await test.sql.run('UPDATE job SET run_after = UTC_TIMESTAMP(3) WHERE id = ?', [jobId]);
    }
    const [row] = await test.sql.rows(
      'SELECT state, tries FROM delivery WHERE source_id = ? ORDER BY id DESC LIMIT 1',
      [mailing],
    );
    expect(row).toEqual({ state: 'queued', tries: 1 });
    await test.services.jobs.cancel(TESTER, jobId);
  });

  it('a message that is refused, not its address, is not reached and can go again', async () => {
    const { mailing, ids } = await draftFor([{}]);
    mailer.answer = () => ({ kind: 'refused', reason: '554 5.7.1 looks like spam' });
    const { body } = await send(mailing, 1);
    expect(await test.jobEnd(Number(body['jobId']))).toMatchObject({ message: '0 reached, 1 not reached' });
    expect((await recordOf(test, ids[0] ?? 0)).emails[0]).toMatchObject({ badOn: null });
    const [row] = await outcomes(mailing, 'failed');
    mailer.answer = () => ({ kind: 'sent' });
    const again = await test.call('POST', `/deliveries/${row?.id}/retry`, {});
    expect(await test.jobEnd(Number(again.body['jobId']))).toMatchObject({ state: 'done', message: '1 reached' });
  });

  it('messages that were not reached go again together; those that were are passed over', async () => {
    const { mailing } = await draftFor([{}, {}, {}]);
    let asked = 0;
    mailer.answer = () => (asked++ === 0 ? { kind: 'sent' } : { kind: 'refused', reason: '554 no' });
    const { body } = await send(mailing, 3);
    expect(await test.jobEnd(Number(body['jobId']))).toMatchObject({ message: '1 reached, 2 not reached' });
    const ids = [...(await outcomes(mailing, 'sent')), ...(await outcomes(mailing, 'failed'))].map(({ id }) => id);
    mailer.answer = () => ({ kind: 'sent' });
    const again = () => test.call('POST', '/deliveries/retry', { ids: [...ids, 999_999] });
    expect((await again()).body).toEqual({ again: 2 });
    await until(async () => (await counts(mailing)).reached === 3);
    expect((await again()).body).toEqual({ again: 0 });
    expect((await test.call('POST', '/deliveries/retry', { ids }, { as: 'entry' })).status).toBe(403);
  });

  it('what was stopped waits until a person goes on with it; what was only left behind is taken up', async () => {
    const { mailing } = await draftFor(Array.from({ length: 8 }, () => ({})));
    let open = (): void => undefined;
    const held = new Promise<void>((resolve) => (open = resolve));
    mailer.answer = async () => {
      await held;
      return { kind: 'sent' };
    };
    const { body } = await send(mailing, 8);
    await until(async () => (await outcomes(mailing, 'sending')).length === 4);
    expect((await test.call('POST', `/sendings/mailing/${mailing}/resume`, {})).body['error']).toMatchObject({
      code: 'being-sent',
    });
    await test.services.jobs.cancel(TESTER, Number(body['jobId']));
    open();
    expect(await test.jobEnd(Number(body['jobId']))).toMatchObject({ state: 'cancelled' });
    await test.services.deliveries.tend();
    expect((await test.call('GET', `/mailings/${mailing}`)).body).toMatchObject({
      ...{ state: 'sending', stopped: true },
      counts: { reached: 4, waiting: 4 },
    });
    expect(mailer.messages).toHaveLength(4);

    // Another server that was cut off while it sent one of them, and whose job is gone.
    await test.sql.run(
      `UPDATE delivery SET state = 'sending', taken_by = '0.1' WHERE state = 'queued' AND source_id = ? LIMIT 1`,
      [mailing],
    );
    const resumed = await test.call('POST', `/sendings/mailing/${mailing}/resume`, {});
    expect(await test.jobEnd(Number(resumed.body['jobId']))).toMatchObject({ message: '7 reached, 1 not reached' });
    expect((await test.call('GET', `/mailings/${mailing}`)).body).toMatchObject({ state: 'sent', stopped: false });
    expect((await test.call('POST', `/sendings/mailing/${mailing}/resume`, {})).body['error']).toMatchObject({
      code: 'nothing-waits',
    });

    await test.sql.run(`UPDATE delivery SET state = 'queued' WHERE state = 'unsure' AND source_id = ?`, [mailing]);
    await test.services.deliveries.tend();
    await until(async () => (await counts(mailing)).reached === 8);
    expect(new Set(mailer.messages.map((one) => one.messageId)).size).toBe(8);
  });

  it('a message that may have arrived is not sent again by itself, and can be by a person', async () => {
    const { mailing } = await draftFor([{}]);
    mailer.answer = () => ({ kind: 'unsure', reason: 'socket closed' });
    const { body } = await send(mailing, 1);
    await test.jobEnd(Number(body['jobId']));
    expect(mailer.messages).toHaveLength(1);
    const [row] = (await test.call('GET', `/mailings/${mailing}/deliveries`)).body['items'] as {
      id: number;
      state: string;
    }[];
    expect(row?.state).toBe('unsure');
    mailer.answer = () => ({ kind: 'sent' });
    const again = await test.call('POST', `/deliveries/${row?.id}/retry`, {});
    await test.jobEnd(Number(again.body['jobId']));
    expect(mailer.messages).toHaveLength(2);
    expect(mailer.messages[0]?.messageId).toBe(mailer.messages[1]?.messageId);
    expect((await test.call('POST', `/deliveries/${row?.id}/retry`, {})).status).toBe(409);
  });

  it('someone who opted out between the click and the sending is held back', async () => {
    const { mailing, ids } = await draftFor([{}, {}]);
    let first = true;
    mailer.answer = async () => {
      if (!first) return { kind: 'sent' };
      first = false;
      const act = { do: 'wish', wish: 'no_email', put: true };
      await test.call('POST', '/supporters/acts', { selection: { kind: 'ids', ids }, act });
      return { kind: 'later', reason: 'busy' };
    };
    const { body } = await send(mailing, 2);
    await test.jobEnd(Number(body['jobId']));
    expect(await counts(mailing)).toMatchObject({ reached: 1, held: 1 });
  });
});

describe('what a letter tells of the supporter', () => {
  it('is any field of the catalogue, as it is on record', async () => {
    const made = await test.call(
      'POST',
      '/fields',
      { about: 'supporter', name: 'Newcomer', kind: 'yesno' },
      { as: 'admin' },
    );
    const id = await addPerson(test, {
      ...{ nickname: 'Annie', birthday: '1950-03-14', addresses: [{ city: 'Ely', region: 'NV' }] },
      fields: { [String(made.body['id'])]: 'yes' },
    });
    const subject = `{nickname}, {town}, {birthday}, {title|no title}, {field${String(made.body['id'])}}, {shares}`;
    const { body } = await test.call('POST', '/mailings/preview', { subject, body: BODY, supporterId: id });
    expect(body['subject']).toBe('Annie, Ely, Mar 14, no title, yes, no');
  });
});

describe('what a letter tells of giving', () => {
  it('leaves out what goods are worth, since that is their donor’s to say', async () => {
    const id = await addPerson(test);
    await addGift(test, id, { cents: 2_500 });
    await addGift(test, id, {
      ...{ cents: 90_000, method: 'in_kind' },
      details: { kind: 'in_kind', description: 'A dome', estimateBy: 'us' },
    });
    const { body } = await test.call('POST', '/mailings/preview', {
      ...{ subject: 'In all {lifetimeTotal|nothing}', body: BODY, supporterId: id },
    });
    expect(body['subject']).toBe('In all $25.00');
  });
});

describe('the picture of an e-mail', () => {
  const pictureIn = (html: string): string => /<img src="(http[^"]+)"/.exec(html)?.[1] ?? '';

  it('tells that it was opened: once, to the e-mail, the record and segments', async () => {
    const { mailing, ids } = await draftFor([{}, {}]);
    const { body } = await send(mailing, 2);
    await test.jobEnd(Number(body['jobId']));
    const toFirst = mailer.messages.find(({ to }) => to.includes('p0@'));
    const picture = pictureIn(toFirst?.html ?? '');
    const fetched = await fetch(picture);
    expect([fetched.status, fetched.headers.get('content-type'), fetched.headers.get('cache-control')]).toEqual([
      ...[200, 'image/gif', 'no-store'],
    ]);
    expect(await counts(mailing)).toMatchObject({ reached: 2, opened: 1 });
    const first = (await test.call('GET', `/supporters/${ids[0]}/correspondence`)).body['items'] as Sent[];
    const second = (await test.call('GET', `/supporters/${ids[1]}/correspondence`)).body['items'] as Sent[];
    expect([first[0]?.openedAt, second[0]?.openedAt]).toEqual([expect.stringMatching(/^\d{4}-.*Z$/), null]);

    await fetch(picture);
    const { opens } = test.services;
    await opens.tell();
    await opens.tell();
    const sets = await test.sql.rows<{ summary: string }>(`SELECT summary FROM change_set WHERE kind = 'opened'`);
    expect(sets).toEqual([{ summary: 'An e-mail was opened' }]);
    const opened = rows('sendings', [
      { part: 'back', test: { is: 'between', atLeast: null, atMost: 1 } },
      anyOf('seen', '1'),
    ]);
    const { body: counted } = await test.call('POST', '/segments/count', { conditions: all(opened) });
    expect(counted['count']).toBe(1);
  });

  it('tells nothing where it was sealed for something else, or made up; a preview has none', async () => {
    const { mailing, ids } = await draftFor([{}]);
    const { body } = await send(mailing, 1);
    await test.jobEnd(Number(body['jobId']));
    const html = mailer.messages.at(-1)?.html ?? '';
    const other = /unsubscribe\/([\w.-]+)"/.exec(html)?.[1] ?? '';
    expect(other).not.toBe('');
    for (const token of [other, 'rubbish', `${ids[0]}.1.${'x'.repeat(32)}`])
      expect((await fetch(`${test.url}/opened/${token}`)).status).toBe(404);
    expect(await counts(mailing)).toMatchObject({ reached: 1, opened: 0 });
    const preview = { subject: 'S', body: { type: 'doc', content: [] }, supporterId: ids[0] };
    expect(pictureIn(String((await test.call('POST', '/mailings/preview', preview)).body['html']))).toBe('');
  });
});

describe('the unsubscribe link', () => {
  it('asks first, then sets the wish, with where it came from in the history', async () => {
    const { mailing, ids } = await draftFor([{}]);
    const { body } = await send(mailing, 1);
    await test.jobEnd(Number(body['jobId']));
    const link = /<(http[^>]+)>/.exec(mailer.messages[0]?.headers?.['List-Unsubscribe'] ?? '')?.[1] ?? '';
    expect(mailer.messages[0]?.html).toContain(link);
    const opened = await fetch(link);
    expect(await opened.text()).toContain('Stop e-mail to me');
    expect((await recordOf(test, ids[0] ?? 0)).refusals).toEqual([]);
    const done = await fetch(link, {
      method: 'POST',
      headers: { 'Content-Type': 'application/x-www-form-urlencoded' },
      body: 'List-Unsubscribe=One-Click',
    });
    expect([done.status, (await done.text()).includes('Done')]).toEqual([200, true]);
    expect((await recordOf(test, ids[0] ?? 0)).refusals).toMatchObject([{ source: 'unsubscribe link', since: TODAY }]);
    const history = (await test.call('GET', `/supporters/${ids[0]}/history`)).body['items'] as {
      by: string;
      summary: string;
      lines: string[];
    }[];
    expect(history[0]).toMatchObject({
      by: 'the supporter, by link',
      summary: expect.stringContaining('Hello'),
      lines: [expect.stringMatching(/^Refusal of e-mail to .*added$/)],
    });
    expect((await fetch(link, { method: 'POST' })).status).toBe(200);
  });

  it('belongs to the mailbox: every record with it is held back, now and later, until it is lifted for a reason', async () => {
    const box = 'shared.box@example.org';
    const { mailing, ids } = await draftFor([{ emails: [{ address: box }] }]);
    const [first = 0] = ids;
    const twin = await addPerson(test, { last: 'Twin', emails: [{ address: box }] });
    const { body } = await send(mailing, 1);
    await test.jobEnd(Number(body['jobId']));
    const link = /<(http[^>]+)>/.exec(mailer.messages.at(-1)?.headers?.['List-Unsubscribe'] ?? '')?.[1] ?? '';
    await fetch(link, { method: 'POST' });
    const later = await addPerson(test, { last: 'Later', emails: [{ address: box.toUpperCase() }] });
    const flagsOf = async (id: number): Promise<string[]> => {
      const { number } = await recordOf(test, id);
      const page = (await test.call('GET', `/supporters?q=${number}`)).body as unknown as {
        items: { wishes: string[] }[];
      };
      return page.items[0]?.wishes ?? [];
    };
    for (const id of [first, twin, later]) expect(await flagsOf(id)).toEqual(['no_email']);

    // Plain Undo takes nothing back of what they asked for, whoever tries.
    const { items } = (await test.call('GET', `/supporters/${first}/history`)).body as {
      items: { revision: number; undoable: boolean }[];
    };
    expect(items[0]?.undoable).toBe(false);
    const undo = await test.call('POST', `/changes/${items[0]?.revision}/undo`, {}, { as: 'admin' });
    expect([undo.status, undo.body['error']]).toMatchObject([409, { code: 'not-undoable' }]);

    const [refusal] = (await recordOf(test, later)).refusals;
    const lift = (reason: string, as: 'officer' | 'entry') =>
      test.call('POST', `/refusals/${refusal?.id}/lift`, { reason }, { as });
    expect((await lift('Asked in a call', 'entry')).status).toBe(403);
    expect((await lift('  ', 'officer')).status).toBe(400);
    expect((await lift('Asked in a call', 'officer')).status).toBe(200);
    expect((await lift('Asked in a call', 'officer')).status).toBe(409);
    for (const id of [first, twin, later]) expect(await flagsOf(id)).toEqual([]);
  });

  it('outlives the record: when that is erased, the mailbox still refuses, without its address', async () => {
    const { mailing, ids } = await draftFor([{}]);
    const { body } = await send(mailing, 1);
    await test.jobEnd(Number(body['jobId']));
    const link = /<(http[^>]+)>/.exec(mailer.messages.at(-1)?.headers?.['List-Unsubscribe'] ?? '')?.[1] ?? '';
    await fetch(link, { method: 'POST' });
    const [address] = (await recordOf(test, ids[0] ?? 0)).refusals.map((one) => one.address);
    await test.call('POST', '/supporters/acts', { selection: { kind: 'ids', ids }, act: { do: 'trash' } });
    const trash = (await test.call('GET', '/trash', undefined, { as: 'admin' })).body as { records: number };
    expect((await test.call('POST', '/trash/empty', { records: trash.records }, { as: 'admin' })).status).toBe(200);
    expect(await test.sql.rows('SELECT id FROM refusal WHERE address = ?', [address ?? ''])).toEqual([]);
    const anew = await addPerson(test, { last: 'Anew', emails: [{ address }] });
    expect((await recordOf(test, anew)).refusals).toHaveLength(1);
  });

  it('cannot be made up', async () => {
    const token = sealed('secret', 'unsubscribe', 10_001, 5);
    expect(readSealed('secret', 'unsubscribe', token)).toEqual({ supporterId: 10_001, deliveryId: 5 });
    expect(readSealed('other', 'unsubscribe', token)).toBeNull();
    expect(readSealed('secret', 'unsubscribe', token.replace('10001', '10002'))).toBeNull();
    expect(readSealed('secret', 'unsubscribe', 'rubbish')).toBeNull();
    for (const method of ['GET', 'POST'])
      expect((await fetch(`${test.url}/unsubscribe/10001.5.${'x'.repeat(32)}`, { method })).status).toBe(404);
  });
});
