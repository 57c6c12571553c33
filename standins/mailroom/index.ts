import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import express from 'express';
import { SMTPServer } from 'smtp-server';
import { Postbox } from './postbox.ts';
import { inboxPage, messagePage, STYLE } from './pages.ts';

/** Domains whose mail is refused for good, and one that is never ready, as real ones are. */
export const REFUSING = ['bounce.example.net', 'gone.example.org'];
export const BUSY = ['busy.example.net'];
/** Domains that take their time, in milliseconds a message. */
export const SLOW: Readonly<Record<string, number>> = { 'slow.example.net': 400 };

export interface MailRoom {
  smtpPort: number;
  url: string;
  postbox: Postbox;
  close(): Promise<void>;
}

/**
 * A mail server that delivers to a folder: real SMTP on loopback, and a page to read what came. Mail to the
 * domains of `REFUSING` is answered 550, to those of `BUSY` 451, and to those of `SLOW` late.
 */
export async function openMailRoom(folder: string, smtpPort = 0, httpPort = 0): Promise<MailRoom> {
  const postbox = new Postbox(folder);
  const smtp = new SMTPServer({
    authOptional: true,
    disabledCommands: ['STARTTLS', 'AUTH'],
    size: 30 * 1024 * 1024,
    onRcptTo({ address }, _session, done) {
      const domain = domainOf(address);
      if (REFUSING.includes(domain))
        done(Object.assign(new Error(`5.1.1 <${address}> is unknown here`), { responseCode: 550 }));
      else if (BUSY.includes(domain))
        done(Object.assign(new Error('4.2.1 the mailbox is busy, try later'), { responseCode: 451 }));
      else done();
    },
    onData(stream, session, done) {
      const parts: Buffer[] = [];
      stream.on('data', (part: Buffer) => parts.push(part));
      stream.on('end', () => {
        const to = session.envelope.rcptTo.map((one) => one.address);
        const wait = Math.max(0, ...to.map((address) => SLOW[domainOf(address)] ?? 0));
        postbox.keep(Buffer.concat(parts), to).then(
          () => setTimeout(done, wait),
          (error: Error) => done(error),
        );
      });
    },
  });
  await new Promise<void>((resolve, reject) => {
    smtp.on('error', reject);
    smtp.listen(smtpPort, '127.0.0.1', resolve);
  });
  const web = createServer(pages(postbox));
  await new Promise<void>((resolve, reject) => {
    web.once('error', reject);
    web.listen(httpPort, '127.0.0.1', resolve);
  });
  return {
    smtpPort: (smtp.server.address() as AddressInfo).port,
    url: `http://127.0.0.1:${(web.address() as AddressInfo).port}`,
    postbox,
    async close() {
      await new Promise<void>((resolve) => smtp.close(() => resolve()));
      await new Promise<void>((resolve) => {
        web.close(() => resolve());
        web.closeAllConnections();
      });
    },
  };
}

const domainOf = (address: string): string => address.split('@')[1]?.toLowerCase() ?? '';

function pages(postbox: Postbox): express.Express {
  const app = express();
  app.use((_request, response, next) => {
    response.setHeader(
      'Content-Security-Policy',
      "default-src 'none'; style-src 'self' 'unsafe-inline'; frame-src 'self'; img-src data:; form-action 'self'",
    );
    next();
  });
  app.get('/style.css', (_request, response) => void response.type('css').send(STYLE));
  app.get('/', async (request, response) => {
    const search = String(request.query['q'] ?? '');
    const all = await postbox.list();
    const found =
      search === ''
        ? all
        : all.filter((one) => `${one.to.join(' ')} ${one.subject}`.toLowerCase().includes(search.toLowerCase()));
    response.send(inboxPage(found.slice(0, 200), found.length, search));
  });
  app.get('/messages.json', async (_request, response) => void response.json(await postbox.list()));
  app.get(
    '/messages/:id',
    async (request, response) =>
      void response.send(messagePage(request.params.id, await postbox.read(request.params.id))),
  );
  app.get('/messages/:id/html', async (request, response) => {
    const message = await postbox.read(request.params.id);
    response.setHeader(
      'Content-Security-Policy',
      "sandbox; default-src 'none'; style-src 'unsafe-inline'; img-src data:",
    );
    response.send(message.html || '<p>No HTML part.</p>');
  });
  app.get(
    '/messages/:id/raw',
    async (request, response) => void response.type('text/plain').send(await postbox.raw(request.params.id)),
  );
  app.get('/messages/:id/attachments/:index', async (request, response) => {
    const file = (await postbox.read(request.params.id)).attachments[Number(request.params.index)];
    if (!file) response.status(404).send('There is no such attachment.');
    else
      response
        .type(file.contentType)
        .attachment(file.filename ?? 'attachment')
        .send(file.content);
  });
  app.post('/empty', async (_request, response) => {
    await postbox.empty();
    response.redirect('/');
  });
  return app;
}
