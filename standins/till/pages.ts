import { CARDS } from './cards.ts';
import type { Drawer } from './drawer.ts';

const escape = (text: string): string =>
  text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;').replace(/"/g, '&quot;');

export const STYLE = `body{margin:0;font:14px/1.5 system-ui,sans-serif;color:#23272f;background:#fbf8f2}header{border-bottom:1px solid #e4dccf;padding:.7rem 1.2rem}
header b{font:600 18px Georgia,serif;color:#8f5e2c;margin-right:1rem}main{padding:1rem 1.2rem;max-width:70rem}table{border-collapse:collapse;width:100%;margin-bottom:2rem}th{text-align:left;color:#646a73;font-weight:500}td,th{border-bottom:1px solid #e4dccf;padding:.35rem .6rem .35rem 0}button{font:inherit;padding:.1rem .5rem}`;

const money = (cents: number): string => (cents / 100).toFixed(2);

/** What the till charged, with a button that refunds from its side, and the cards that it knows. */
export function tillPage(drawer: Drawer): string {
  const rows = drawer
    .charges()
    .toReversed()
    .slice(0, 200)
    .map((charge) => {
      const back = drawer.refunded(charge.id);
      const can = charge.outcome === 'approved' && back < charge.cents;
      const button = can
        ? `<form method="post" action="/desk/refund"><input type="hidden" name="charge" value="${charge.id}"><button>Refund</button></form>`
        : '';
      const said = back > 0 ? `refunded ${money(back)}` : charge.outcome;
      return `<tr><td>${escape(charge.at.slice(0, 19).replace('T', ' '))}</td><td>${charge.id}</td><td>${escape(charge.card)}</td><td>${money(charge.cents)} ${escape(charge.currency)}</td><td>${escape(said)}</td><td>${button}</td></tr>`;
    })
    .join('');
  const cards = Object.entries(CARDS)
    .map(([kind, how]) => `<tr><td><code>${kind}-1234</code></td><td>${escape(how)}</td></tr>`)
    .join('');
  return `<!doctype html><html lang="en"><head><meta charset="utf-8"><title>Till</title><link rel="stylesheet" href="/style.css"></head><body>
<header><b>Till</b>A stand-in card processor; no money moves</header><main>
<table><thead><tr><th>At (UTC)</th><th>Charge</th><th>Card</th><th>Amount</th><th>Outcome</th><th></th></tr></thead><tbody>${rows || '<tr><td colspan="6">Nothing was charged yet.</td></tr>'}</tbody></table>
<table><thead><tr><th>Card token</th><th>How it behaves</th></tr></thead><tbody>${cards}</tbody></table></main></body></html>`;
}
