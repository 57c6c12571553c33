import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { SmtpMailer } from '@tallystick/server/platform/mail';
import type { Message } from '@tallystick/server/platform/mail';
import { openMailRoom } from './index.ts';
import type { MailRoom } from './index.ts';

let room: MailRoom;
let folder: string;
let mailer: SmtpMailer;
beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'tallystick-room-'));
  room = await openMailRoom(folder);
  mailer = new SmtpMailer(`smtp://127.0.0.1:${room.smtpPort}`);
});
afterAll(async () => {
  await room.close();
  rmSync(folder, { recursive: true, force: true });
});

const message = (over: Partial<Message> = {}): Message => ({
  messageId: `<test-${Math.random()}@example.org>`,
  from: 'office@example.org',
  fromName: 'Test Basin',
  to: 'ana@example.org',
  subject: 'Grüße, Ána',
  text: 'Plain words',
  html: '<p>Rich <b>words</b></p>',
  ...over,
});
const page = async (path: string) => (await fetch(`${room.url}${path}`)).text();

describe('the mail room', () => {
  it('takes mail by SMTP and shows all of it: HTML, text, headers, attachments', async () => {
    const pdf = Buffer.from('%PDF-1.4 pretend');
    const sent = await mailer.send(
      message({
        headers: { 'List-Unsubscribe': '<http://127.0.0.1/u>' },
        attachments: [{ filename: 'receipt.pdf', content: pdf, contentType: 'application/pdf' }],
      }),
    );
    expect(sent).toEqual({ kind: 'sent' });
    const [letter] = await room.postbox.list();
    expect(letter).toMatchObject({ to: ['ana@example.org'], subject: 'Grüße, Ána', attachments: ['receipt.pdf'] });
    expect(await page('/')).toContain('Grüße, Ána');
    const shown = await page(`/messages/${letter?.id}`);
    for (const part of [
      'Plain words',
      'List-Unsubscribe: &lt;http://127.0.0.1/u&gt;',
      'receipt.pdf',
      'office@example.org',
    ])
      expect(shown).toContain(part);
    expect(await page(`/messages/${letter?.id}/html`)).toContain('<b>words</b>');
    const file = await fetch(`${room.url}/messages/${letter?.id}/attachments/0`);
    expect([file.headers.get('content-type'), Buffer.from(await file.arrayBuffer()).equals(pdf)]).toEqual([
      'application/pdf',
      true,
    ]);
  });

  it('finds by address or subject, and shows markup in a subject as text', async () => {
    await mailer.send(message({ to: 'bo@example.net', subject: '<script>alert(1)</script>' }));
    expect(await page('/?q=bo@example')).toContain('&lt;script&gt;');
    expect(await page('/?q=nobody')).toContain('No mail yet');
  });

  it('keeps what it took when it is opened again', async () => {
    const before = await room.postbox.list();
    await room.close();
    room = await openMailRoom(folder);
    mailer = new SmtpMailer(`smtp://127.0.0.1:${room.smtpPort}`);
    expect(await room.postbox.list()).toEqual(before);
  });

  it('gives out no other file', async () => {
    for (const id of ['..%2f..%2fetc%2fpasswd', 'x', '1-1.json'])
      expect((await fetch(`${room.url}/messages/${id}/raw`)).status).toBeGreaterThanOrEqual(400);
  });

  it('can be emptied', async () => {
    await fetch(`${room.url}/empty`, { method: 'POST' });
    expect(await room.postbox.list()).toEqual([]);
  });
});

describe('the mailer tells apart', () => {
  it.each([
    ['a domain that refuses', 'x@bounce.example.net', 'bounced', /550/],
    ['a mailbox that is busy', 'x@busy.example.net', 'busy', /451/],
  ])('%s', async (_title, to, kind, reason) => {
    const sent = await mailer.send(message({ to }));
    expect(sent.kind).toBe(kind);
    expect('reason' in sent && sent.reason).toMatch(reason);
  });
  it('a server that is down', async () =>
    expect(await new SmtpMailer('smtp://127.0.0.1:9').send(message())).toMatchObject({ kind: 'later' }));
});
