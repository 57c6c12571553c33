import { randomUUID } from 'node:crypto';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import express from 'express';
import { FAULTS } from './faults.ts';
import type { Fault } from './faults.ts';
import { portalPage, STYLE } from './pages.ts';
import { PortalStore } from './store.ts';
import type { PortalGift } from './store.ts';

export type { Fault } from './faults.ts';
export { PORTAL_FILE, PortalStore } from './store.ts';
export type * from './store.ts';

export interface Portal {
  url: string;
  store: PortalStore;
  /** The next requests fail, each in its turn; whatever comes after is answered. */
  fail(...faults: Fault[]): void;
  /** How many requests were made of it, but for its own pages. */
  asked(): number;
  close(): Promise<void>;
}

const MOST = 100;
const cursorOf = (place: number): string => Buffer.from(`place ${place}`).toString('base64url');
const placeOf = (cursor: string): number | null => {
  const found = /^place (\d+)$/.exec(Buffer.from(cursor, 'base64url').toString());
  return found ? Number(found[1]) : null;
};

/**
 * A giving portal on loopback. Requests carry `Authorization: Bearer <secret>`.
 *
 * `GET /gifts?after=CURSOR&limit=N` (N at most 100) answers `{ gifts, next, more }`, oldest first; the last gift of a
 * page comes again as the first of the next. `GET /refunds?after=CURSOR` likewise `{ refunds, next, more }`; a refund
 * may come months after its gift. `GET /campaigns` answers what each campaign came to. `PUT /campaigns/ID/offline`
 * takes `{ gifts: [{ key, cents, day }] }`, 100 at most: a key that is known is set anew, and nothing is left of one at
 * 0 cents. More than `perSecond` requests within a second are answered 429 with `Retry-After`; a cursor that it does
 * not know any more, 410.
 */
export async function openPortal(options: {
  folder: string | null;
  secret: string;
  port?: number;
  perSecond?: number;
}): Promise<Portal> {
  const store = new PortalStore(options.folder);
  const faults: Fault[] = [];
  const { perSecond = 20 } = options;
  let recent: number[] = [];
  let asked = 0;
  const app = express();
  app.use(express.json());
  app.use(express.urlencoded({ extended: false }));

  app.get('/style.css', (_request, response) => void response.type('css').send(STYLE));
  app.get('/', (_request, response) => void response.type('html').send(portalPage(store, faults)));
  app.post('/desk/:act', (request, response) => {
    const { gift, fault } = request.body as { gift?: string; fault?: Fault };
    const known = store.gifts.find(({ id }) => id === gift);
    if (request.params.act === 'refund' && known) {
      const cents = known.cents - store.refunded(known.id);
      const refund = { id: `RF-${randomUUID().slice(0, 8)}`, gift: known.id, cents, reason: 'Asked for by the donor' };
      if (cents > 0) store.keep({ refund: { ...refund, at: new Date().toISOString() } });
    }
    if (request.params.act === 'again' && known) store.keep({ gift: anew(known) });
    if (request.params.act === 'fail' && fault && Object.hasOwn(FAULTS, fault)) faults.push(fault);
    response.redirect('/');
  });

  app.use((request, response, next) => {
    if (request.headers.authorization !== `Bearer ${options.secret}`)
      return void response.status(401).json({ error: 'Give the secret of the portal.' });
    asked++;
    const now = Date.now();
    recent = [...recent.filter((at) => at > now - 1000), now];
    const fault = faults.shift();
    if (fault === 'busy' || recent.length > perSecond)
      return void response.status(429).set('Retry-After', '1').json({ error: 'Too many requests; wait.' });
    if (fault === 'slow') return;
    if (fault === 'cut') return void request.socket.destroy();
    if (fault === 'page') return void response.type('html').send('<h1>Back in a moment</h1>');
    if (fault === 'half') return void response.type('json').send('{"gifts":[{"id":"GP');
    if (fault === 'error') return void response.status(502).json({ error: 'Something broke here.' });
    if (fault === 'forgets') return void response.status(410).json({ error: 'This cursor is too old; begin anew.' });
    if (fault === 'cut-after') response.json = () => (request.socket.destroy(), response);
    next();
  });

  const pages = (path: string, name: 'gifts' | 'refunds'): void => {
    app.get(path, (request, response) => {
      const { after = '', limit = String(MOST) } = request.query as { after?: string; limit?: string };
      const place = after === '' ? 0 : placeOf(after);
      const all = store[name];
      if (place === null || place > all.length)
        return void response.status(410).json({ error: 'This cursor is none of ours; begin anew.' });
      const size = Math.min(MOST, Math.max(1, Number(limit) || MOST));
      const end = Math.min(all.length, place + size);
      response.json({ [name]: all.slice(Math.max(0, place - 1), end), next: cursorOf(end), more: end < all.length });
    });
  };
  pages('/gifts', 'gifts');
  pages('/refunds', 'refunds');
  app.get('/campaigns', (_request, response) => {
    response.json({ campaigns: store.campaigns.map((one) => ({ ...one, ...store.sums(one) })) });
  });
  app.put('/campaigns/:id/offline', (request, response) => {
    const campaign = store.campaigns.find(({ id }) => id === request.params.id);
    const { gifts } = request.body as { gifts?: { key?: string; cents?: number; day?: string }[] };
    if (!campaign) return void response.status(404).json({ error: 'There is no such campaign.' });
    if (!Array.isArray(gifts) || gifts.length > MOST)
      return void response.status(400).json({ error: `Send at most ${MOST} gifts.` });
    if (gifts.some(({ key, cents }) => typeof key !== 'string' || !Number.isSafeInteger(cents) || Number(cents) < 0))
      return void response.status(400).json({ error: 'Each gift needs a key and whole cents, 0 or more.' });
    for (const { key = '', cents = 0, day = '' } of gifts)
      store.keep({ offline: { campaign: campaign.id, key, cents, day } });
    response.json(store.sums(campaign));
  });

  const server = createServer(app);
  await new Promise<void>((resolve, reject) => {
    server.once('error', reject);
    server.listen(options.port ?? 0, '127.0.0.1', resolve);
  });
  return {
    url: `http://127.0.0.1:${(server.address() as AddressInfo).port}`,
    store,
    fail: (...more) => void faults.push(...more),
    asked: () => asked,
    close: () =>
      new Promise<void>((resolve) => {
        server.close(() => resolve());
        server.closeAllConnections();
      }),
  };
}

/** Another gift of whoever gave one, given now. */
const anew = (gift: PortalGift): PortalGift => ({
  ...gift,
  id: `GP-${randomUUID().slice(0, 8)}`,
  at: new Date().toISOString(),
});
