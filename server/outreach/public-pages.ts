import express from 'express';
import type { Express } from 'express';
import type { DataSource } from 'typeorm';
import { escapeHtml } from '@tallystick/core/letters';
import type { Changes } from '../platform/changes.ts';
import { one, sqlOn } from '../platform/db.ts';
import type { Settings } from '../settings/index.ts';
import type { Opens } from './opens.ts';
import { readSealed } from './sealed.ts';
import { refuseMailbox } from '../supporters/index.ts';

/** The page behind 'No more e-mail like this'. Asking takes a button, so that a scanner that opens links opts nobody out. */
export function serveUnsubscribe(app: Express, source: DataSource, changes: Changes, settings: Settings): void {
  app.get('/unsubscribe/:token', async (request, response) => {
    const { name, secret } = await settings.organization();
    const known = readSealed(secret, 'unsubscribe', request.params.token);
    response
      .status(known ? 200 : 404)
      .send(
        known
          ? page(
              name,
              `<h1>No more e-mail?</h1><p>You will still get receipts for your gifts.</p><form method="post"><button>Stop e-mail to me</button></form>`,
            )
          : page(
              name,
              '<h1>This link does not work</h1><p>It may be incomplete. Reply to the e-mail and we will take you off.</p>',
            ),
      );
  });
  app.post('/unsubscribe/:token', express.urlencoded({ extended: false, limit: '4kb' }), async (request, response) => {
    const { name, secret } = await settings.organization();
    const known = readSealed(secret, 'unsubscribe', request.params.token);
    if (!known) {
      response.status(404).send(page(name, '<h1>This link does not work</h1>'));
      return;
    }
    const delivery = await one<{ subject: string; address: string; supporterId: number }>(
      sqlOn(source),
      'SELECT subject, address, supporter_id AS supporterId FROM delivery WHERE id = ?',
      [known.deliveryId],
    );
    if (!delivery) {
      response
        .status(404)
        .send(page(name, '<h1>This link is too old</h1><p>Reply to the e-mail and we will take you off.</p>'));
      return;
    }
    const { today } = await settings.calendar();
    const summary = `Asked for no more e-mail, from “${delivery.subject}”`;
    await changes.write({ userId: null, name: 'the supporter, by link' }, { kind: 'public', summary }, (tx) =>
      refuseMailbox(tx, {
        ...known,
        supporterId: delivery.supporterId,
        address: delivery.address,
        since: today,
        source: 'unsubscribe link',
      }),
    );
    response.send(
      page(
        name,
        '<h1>Done</h1><p>We will send you no more e-mail like this. You will still get receipts for your gifts.</p>',
      ),
    );
  });
}

/** A picture of one clear dot: a GIF. */
const DOT = Buffer.from('R0lGODlhAQABAIAAAAAAAP///yH5BAEAAAAALAAAAAABAAEAAAIBRAA7', 'base64');

/** The picture of an e-mail, which its reader's mail program fetches as it is opened. */
export function serveOpened(app: Express, opens: Opens, settings: Settings): void {
  app.get('/opened/:token', async (request, response) => {
    const { secret } = await settings.organization();
    const known = readSealed(secret, 'opened', request.params.token);
    if (known) await opens.note(known.deliveryId);
    response
      .status(known ? 200 : 404)
      .set('Cache-Control', 'no-store')
      .type('gif')
      .send(DOT);
  });
}

const page = (organization: string, body: string): string =>
  `<!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1"><title>${escapeHtml(organization)}</title><link rel="stylesheet" href="/public.css"></head><body><main><p class="who">${escapeHtml(organization)}</p>${body}</main></body></html>`;

export const PUBLIC_STYLE = `body{margin:0;background:#fbf8f2;color:#23272f;font:17px/1.55 Georgia,serif}main{max-width:34rem;margin:12vh auto;padding:0 1.25rem}
.who{color:#8f5e2c;border-bottom:1px solid #e4dccf;padding-bottom:.5rem}h1{font-weight:600}button{font:inherit;background:#2f5277;color:#fff;border:0;border-radius:4px;padding:.6rem 1.1rem;cursor:pointer}button:focus-visible{outline:3px solid #8f5e2c}`;
