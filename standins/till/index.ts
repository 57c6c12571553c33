import { createHmac, randomUUID } from 'node:crypto';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import express from 'express';
import type { CardKind } from './cards.ts';
import { Drawer } from './drawer.ts';
import type { Charge } from './drawer.ts';
import { STYLE, tillPage } from './pages.ts';

export interface Till {
  url: string;
  drawer: Drawer;
  /** Stops refusing or breaking whatever the card: for tests. `null` is the card's own behaviour. */
  behave(next: CardKind | 'cut-after' | null): void;
  /** Sends an event as the till would; `forged` signs it with another secret. Answers the HTTP status. */
  send(event: object, forged?: boolean): Promise<number>;
  close(): Promise<void>;
}

/** What the till keeps of a charge: 2.9 % and 30 cents, and never more than there is. */
export const feeOn = (cents: number): number => Math.min(cents, Math.round(cents * 0.029) + 30);

/**
 * A card processor on loopback. It keeps a fee of each charge. Requests carry `Authorization: Bearer <secret>` and an `Idempotency-Key`; the same
 * key is answered with what was done the first time. Each charge and refund is reported to `hook` in a signed event.
 */
export async function openTill(options: {
  folder: string | null;
  secret: string;
  hook: string | null;
  port?: number;
}): Promise<Till> {
  const drawer = new Drawer(options.folder);
  let next: CardKind | 'cut-after' | null = null;
  const app = express();
  app.use(express.json());
  app.use(express.urlencoded({ extended: false }));

  const send = async (event: object, forged = false): Promise<number> => {
    if (options.hook === null) return 0;
    const body = JSON.stringify(event);
    const time = String(Math.floor(Date.now() / 1000));
    const secret = forged ? 'not the secret' : options.secret;
    const signature = createHmac('sha256', secret).update(`${time}\n`).update(body).digest('hex');
    const answer = await fetch(options.hook, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json', 'Till-Time': time, 'Till-Signature': signature },
      body,
    });
    return answer.status;
  };
  const report = (event: object): void => {
    const retry = async (): Promise<void> => {
      for (const wait of [50, 1000, 5000]) {
        await new Promise((resolve) => setTimeout(resolve, wait));
        if ((await send(event).catch(() => 599)) < 400) return;
      }
    };
    void retry();
  };

  app.use((request, response, done) => {
    const ours = request.path === '/' || request.path === '/style.css' || request.path.startsWith('/desk/');
    if (ours || request.headers.authorization === `Bearer ${options.secret}`) done();
    else response.status(401).json({ error: 'Give the secret of the till.' });
  });

  app.post('/charges', (request, response) => {
    const key = request.headers['idempotency-key'];
    const { card, cents, currency } = request.body as { card?: string; cents?: number; currency?: string };
    if (typeof key !== 'string' || typeof card !== 'string' || !Number.isSafeInteger(cents) || !currency)
      return void response.status(400).json({ error: 'A charge needs a key, a card, whole cents and a currency.' });
    const behaviour = next ?? (card.split('-')[0] as CardKind | 'cut-after');
    const first = drawer.tries(key) === 0;
    drawer.noteTry(key);
    if (behaviour === 'cut' && first) return void request.socket.destroy();
    if (behaviour === 'unheard') return void response.status(400).json({ error: 'This token is not one of ours.' });
    if (behaviour === 'busy' && first) return void response.status(429).json({ error: 'Too many at once; wait.' });
    if (behaviour === 'page' && first) return void response.type('html').send('<h1>Back in a moment</h1>');
    const known = drawer.charge(key);
    if (known && (known.card !== card || known.cents !== cents))
      return void response.status(422).json({ error: 'This key was used for another charge.' });
    const charge = known ?? made(key, card, cents ?? 0, currency, behaviour);
    if (behaviour === 'slow' && first) return;
    if (behaviour === 'cut-after' && first) return void request.socket.destroy();
    const { id, outcome, reason } = charge;
    response.json({ id, outcome, reason, feeCents: outcome === 'approved' ? feeOn(charge.cents) : 0 });
  });
  const made = (key: string, card: string, cents: number, currency: string, behaviour: string): Charge => {
    const moody = behaviour === 'moody' && !drawer.charges().some((one) => one.card === card);
    const outcome = behaviour === 'declined' || moody ? 'declined' : behaviour === 'expired' ? 'expired' : 'approved';
    const reason =
      outcome === 'declined' ? 'The bank declined the card.' : outcome === 'expired' ? 'The card has expired.' : '';
    const at = new Date().toISOString();
    const charge: Charge = { id: `ch-${randomUUID().slice(0, 12)}`, key, card, cents, currency, outcome, reason, at };
    drawer.keep(charge);
    if (outcome === 'approved')
      report({
        kind: 'charge',
        id: `ev-${randomUUID().slice(0, 12)}`,
        charge: charge.id,
        key,
        cents,
        feeCents: feeOn(cents),
      });
    return charge;
  };

  const refund = (key: string, chargeId: string, cents: number): { status: number; body: object } => {
    const known = drawer.refund(key);
    if (known) return { status: 200, body: known };
    const charge = drawer.charges().find((one) => one.id === chargeId && one.outcome === 'approved');
    const left = charge ? charge.cents - drawer.refunded(charge.id) : 0;
    if (!charge || !Number.isSafeInteger(cents) || cents <= 0 || cents > left)
      return { status: 409, body: { error: `${left} cents of this charge can be refunded.` } };
    const made = { id: `re-${randomUUID().slice(0, 12)}`, key, charge: charge.id, cents };
    drawer.keepRefund(made);
    report({ kind: 'refund', id: `ev-${made.id}`, charge: charge.id, refund: made.id, cents });
    return { status: 200, body: made };
  };
  app.post('/refunds', (request, response) => {
    const { charge, cents } = request.body as { charge?: string; cents?: number };
    const key = String(request.headers['idempotency-key'] ?? randomUUID());
    const first = drawer.tries(key) === 0;
    drawer.noteTry(key);
    if (next === 'cut' && first) return void request.socket.destroy();
    const { status, body } = refund(key, charge ?? '', cents ?? 0);
    if ((next === 'cut-after' || next === 'slow') && first) return void request.socket.destroy();
    response.status(status).json(body);
  });

  app.get('/style.css', (_request, response) => void response.type('css').send(STYLE));
  app.get('/', (_request, response) => void response.type('html').send(tillPage(drawer)));
  app.post('/desk/refund', (request, response) => {
    const { charge } = request.body as { charge?: string };
    const whole = drawer.charges().find((one) => one.id === charge);
    if (whole) refund(`desk-${whole.id}`, whole.id, whole.cents - drawer.refunded(whole.id));
    response.redirect('/');
  });

  const server = createServer(app);
  await new Promise<void>((resolve, reject) => {
    server.once('error', reject);
    server.listen(options.port ?? 0, '127.0.0.1', resolve);
  });
  return {
    url: `http://127.0.0.1:${(server.address() as AddressInfo).port}`,
    drawer,
    behave: (how) => {
      next = how;
    },
    send,
    close: () =>
      new Promise<void>((resolve) => {
        server.close(() => resolve());
        server.closeAllConnections();
      }),
  };
}
