import { FAULTS } from './faults.ts';
import type { Fault } from './faults.ts';
import type { PortalStore } from './store.ts';

const escape = (text: string): string =>
  text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;').replace(/"/g, '&quot;');

export const STYLE = `body{margin:0;font:14px/1.5 system-ui,sans-serif;color:#23272f;background:#fbf8f2}header{border-bottom:1px solid #e4dccf;padding:.7rem 1.2rem}
header b{font:600 18px Georgia,serif;color:#8f5e2c;margin-right:1rem}main{padding:1rem 1.2rem;max-width:70rem}table{border-collapse:collapse;width:100%;margin-bottom:2rem}th{text-align:left;color:#646a73;font-weight:500}td,th{border-bottom:1px solid #e4dccf;padding:.35rem .6rem .35rem 0}button,select{font:inherit;padding:.1rem .5rem}form{display:inline}`;

const money = (cents: number): string => (cents / 100).toFixed(2);
/** What came through the portal, with buttons that give again, give back, and make its next answer fail. */
export function portalPage(store: PortalStore, faults: readonly Fault[]): string {
  const button = (act: string, gift: string, words: string): string =>
    `<form method="post" action="/desk/${act}"><input type="hidden" name="gift" value="${escape(gift)}"><button>${words}</button></form>`;
  const gifts = store.gifts
    .toReversed()
    .slice(0, 200)
    .map(({ id, at, donor, campaign, cents, currency }) => {
      const back = store.refunded(id);
      const name = escape(donor.organization ?? `${donor.first} ${donor.last}`);
      const acts = `${button('again', id, 'Gives again')} ${back < cents ? button('refund', id, 'Refund') : `refunded ${money(back)}`}`;
      return `<tr><td>${escape(at.slice(0, 16).replace('T', ' '))}</td><td>${escape(id)}</td><td>${name}</td><td>${escape(campaign)}</td><td>${money(cents)} ${escape(currency)}</td><td>${acts}</td></tr>`;
    })
    .join('');
  const campaigns = store.campaigns
    .map((one) => {
      const { onlineCents, offlineCents } = store.sums(one);
      return `<tr><td>${escape(one.name)}</td><td>${money(onlineCents)}</td><td>${money(offlineCents)}</td><td>${money(onlineCents + offlineCents)}</td><td>${money(one.goalCents)}</td></tr>`;
    })
    .join('');
  const choices = Object.entries(FAULTS)
    .map(([fault, words]) => `<option value="${fault}">${words}</option>`)
    .join('');
  const waiting = faults.length === 0 ? 'Every request is answered.' : `The next fail: ${faults.join(', ')}.`;
  return `<!doctype html><html lang="en"><head><meta charset="utf-8"><title>Giving portal</title><link rel="stylesheet" href="/style.css"></head><body>
<header><b>Giving portal</b>A stand-in for a site where people give; no money moves</header><main>
<form method="post" action="/desk/fail"><label>The next request fails: <select name="fault">${choices}</select></label> <button>Let it fail</button></form> ${waiting}
<table><thead><tr><th>Campaign</th><th>Given here</th><th>Given elsewhere</th><th>Total</th><th>Goal</th></tr></thead><tbody>${campaigns || '<tr><td colspan="5">No campaign yet.</td></tr>'}</tbody></table>
<table><thead><tr><th>At (UTC)</th><th>Gift</th><th>From</th><th>Campaign</th><th>Amount</th><th></th></tr></thead><tbody>${gifts || '<tr><td colspan="6">Nothing was given yet.</td></tr>'}</tbody></table></main></body></html>`;
}
