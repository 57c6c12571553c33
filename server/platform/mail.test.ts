import { createServer } from 'node:net';
import type { AddressInfo, Server, Socket } from 'node:net';
import { afterEach, describe, expect, it } from 'vitest';
import { SmtpMailer } from './mail.ts';
import type { Message } from './mail.ts';

/* A mail server that fails at a chosen step of the conversation, to see what the mailer makes of it. */

let server: Server | null = null;
afterEach(async () => {
  await new Promise<void>((resolve) => (server ? server.close(() => resolve()) : resolve()));
  server = null;
});

type Step = 'EHLO' | 'MAIL' | 'RCPT' | 'DATA' | 'BODY';
type Act = (socket: Socket) => void;

/** Answers as a good server does, but for one step. Counts the messages that came whole. */
async function failingAt(step: Step, act: Act): Promise<{ url: string; whole: () => number }> {
  let whole = 0;
  server = createServer((socket) => {
    let inBody = false;
    let body = '';
    const answer = (at: Step, line: string): void => (at === step ? act(socket) : void socket.write(`${line}\r\n`));
    socket.on('error', () => undefined);
    socket.write('220 test\r\n');
    socket.on('data', (part) => {
      const text = part.toString();
      if (inBody) {
        body += text;
        if (!body.endsWith('\r\n.\r\n')) return;
        whole++;
        inBody = false;
        body = '';
        answer('BODY', '250 kept');
      } else if (/^(EHLO|HELO)/i.test(text)) answer('EHLO', '250 test');
      else if (/^MAIL/i.test(text)) answer('MAIL', '250 ok');
      else if (/^RCPT/i.test(text)) answer('RCPT', '250 ok');
      else if (/^DATA/i.test(text)) {
        if (step !== 'DATA') inBody = true;
        answer('DATA', '354 go on');
      } else socket.write('250 ok\r\n');
    });
  });
  await new Promise<void>((resolve) => server?.listen(0, '127.0.0.1', resolve));
  return { url: `smtp://127.0.0.1:${(server.address() as AddressInfo).port}`, whole: () => whole };
}

const message: Message = {
  messageId: '<m@example.org>',
  from: 'a@example.org',
  fromName: 'A',
  to: 'b@example.org',
  subject: 's',
  text: 't',
  html: '<p>t</p>',
};
const says =
  (line: string): Act =>
  (socket) =>
    void socket.write(`${line}\r\n`);
const hangsUp: Act = (socket) => void socket.destroy();

describe('what became of a message', () => {
  it.each<[string, Step, Act, string, number]>([
    ['a good conversation', 'EHLO', says('250 test'), 'sent', 1],
    ['an unknown recipient', 'RCPT', says('550 5.1.1 unknown'), 'bounced', 0],
    ['a busy recipient', 'RCPT', says('451 4.2.1 later'), 'busy', 0],
    ['a recipient that a rule of the server refuses', 'RCPT', says('554 5.7.1 relaying denied'), 'refused', 0],
    ['a server that closes at the recipient', 'RCPT', says('421 4.3.2 closing'), 'later', 0],
    ['a sender that is refused', 'MAIL', says('553 not you'), 'later', 0],
    ['a sender that is put off', 'MAIL', says('451 slow down'), 'later', 0],
    ['a hang-up before the greeting is over', 'EHLO', hangsUp, 'later', 0],
    ['a hang-up before the message', 'RCPT', hangsUp, 'later', 0],
    ['a message refused after it was read', 'BODY', says('554 5.7.1 looks like spam'), 'refused', 1],
    ['a message put off after it was read', 'BODY', says('452 full'), 'busy', 1],
    ['a hang-up after the message, before the answer', 'BODY', hangsUp, 'unsure', 1],
  ])('%s', async (_title, step, act, kind, whole) => {
    const failing = await failingAt(step, act);
    const sent = await new SmtpMailer(failing.url).send(message);
    expect([sent.kind, failing.whole()]).toEqual([kind, whole]);
  });

  it.each(['x@example.org>', '', 'x@exa\nmple.org'])(
    'an address that is none (%j) is the recipient’s, not the server’s',
    async (to) => {
      const failing = await failingAt('EHLO', says('250 test'));
      expect((await new SmtpMailer(failing.url).send({ ...message, to })).kind).toBe('bounced');
      expect(failing.whole()).toBe(0);
    },
  );

  it('a hang-up at the edge of the message is never taken for surely not sent', async () => {
    const failing = await failingAt('DATA', hangsUp);
    expect(['unsure', 'later']).toContain((await new SmtpMailer(failing.url).send(message)).kind);
    expect(failing.whole()).toBe(0);
  });
});
