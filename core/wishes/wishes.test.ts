import { describe, expect, it } from 'vitest';
import { heldBack } from './held.ts';
import { mayReach, WISH_NAMES, WISHES, wishesOf } from './index.ts';
import type { Channel, Purpose, SendingSubject, Wish } from './index.ts';

const TODAY = '2026-11-23';
const reachable: SendingSubject = {
  reach: {
    email: { address: 'ana@example.org', bad: false },
    mail: { address: '1 Lyra St', bad: false },
    call: { address: '+1 775 555 0142', bad: false },
  },
  wishes: [],
  trashed: false,
  lastSentOn: null,
};

const without = (...channels: Channel[]) => ({
  reach: { ...reachable.reach, ...Object.fromEntries(channels.map((channel) => [channel, null])) },
});
const bad = (channel: Channel) => ({ reach: { ...reachable.reach, [channel]: { address: '1 Lyra St', bad: true } } });

describe('heldBack', () => {
  it.each<[Channel, Purpose, Wish, string | null]>([
    ['email', 'appeal', 'no_email', 'wants no e-mail'],
    ['mail', 'appeal', 'no_email', null],
    ['mail', 'appeal', 'no_mail', 'wants no mail'],
    ['call', 'appeal', 'no_calls', 'wants no calls'],
    ['email', 'appeal', 'no_solicitation', 'does not want to be asked'],
    ['email', 'news', 'no_solicitation', null],
    ['email', 'receipt', 'no_solicitation', null],
    ['email', 'news', 'receipts_only', 'wants receipts only'],
    ['email', 'receipt', 'receipts_only', null],
    ['email', 'receipt', 'no_email', 'wants no e-mail'],
    ['email', 'receipt', 'deceased', 'deceased'],
    ['email', 'appeal', 'anonymous', null],
    ['email', 'appeal', 'once_a_year', null],
  ])('%s, %s, %s: %s', (channel, purpose, wish, why) =>
    expect(heldBack(channel, purpose, { ...reachable, wishes: [wish] }, TODAY)).toBe(why),
  );
  it.each([
    ['2025-11-24', 'was written to within a year'],
    ['2025-11-23', null],
    [null, null],
  ])('once a year, last written to on %s: %s', (lastSentOn, why) =>
    expect(heldBack('email', 'news', { ...reachable, wishes: ['once_a_year'], lastSentOn }, TODAY)).toBe(why),
  );
  it.each<[Partial<SendingSubject>, string]>([
    [without('email'), 'no e-mail address'],
    [bad('email'), 'e-mail bounced'],
    [{ trashed: true, wishes: ['deceased'] }, 'in the trash'],
    [{ wishes: ['deceased', 'no_email'], ...without('email') }, 'deceased'],
    [{ wishes: ['no_email'], ...without('email') }, 'wants no e-mail'],
  ])('%j: the weightiest is told', (more, why) =>
    expect(heldBack('email', 'news', { ...reachable, ...more }, TODAY)).toBe(why),
  );
});

describe('mayReach', () => {
  const print = (instead: string | null, but: string | null = null, address = '1 Lyra St') => ({
    ...{ by: 'mail', address, instead, but },
  });
  const mailed = { by: 'email', address: 'ana@example.org', instead: null, but: null };
  it.each<[Purpose, Partial<SendingSubject>, unknown]>([
    ['receipt', {}, mailed],
    ['receipt', without('email'), print('no e-mail address')],
    ['receipt', bad('email'), print('e-mail bounced')],
    ['receipt', { wishes: ['no_email'] }, print('wants no e-mail')],
    ['receipt', { wishes: ['deceased'] }, print('deceased', 'deceased')],
    ['receipt', { wishes: ['no_mail'] }, mailed],
    ['receipt', { wishes: ['no_mail'], ...without('email') }, print('no e-mail address', 'wants no mail')],
    ['receipt', without('email', 'mail'), print('no e-mail address', 'no address', '')],
    [
      'receipt',
      { reach: { ...bad('mail').reach, email: null } },
      print('no e-mail address', 'address is undeliverable'),
    ],
    ['receipt', { wishes: ['receipts_only'] }, mailed],
    ['receipt', { trashed: true }, { held: 'in the trash' }],
    ['news', {}, mailed],
    ['news', without('email'), { held: 'no e-mail address' }],
    ['appeal', { wishes: ['no_solicitation'] }, { held: 'does not want to be asked' }],
    ['appeal', { trashed: true }, { held: 'in the trash' }],
  ])('%s, %j', (purpose, over, expected) =>
    expect(mayReach({ ...reachable, ...over }, purpose, TODAY)).toEqual(expected),
  );

  it.each<[Channel, Wish, unknown]>([
    ['mail', 'no_email', print(null)],
    ['mail', 'no_mail', { held: 'wants no mail' }],
    ['call', 'no_mail', { by: 'call', address: '+1 775 555 0142', instead: null, but: null }],
    ['call', 'no_calls', { held: 'wants no calls' }],
  ])('an appeal by %s, %s', (channel, wish, expected) =>
    expect(mayReach({ ...reachable, wishes: [wish] }, 'appeal', TODAY, channel)).toEqual(expected),
  );
});

describe('bits', () => {
  it('are one for each wish and none twice', () => {
    const bits = WISH_NAMES.map((wish) => WISHES[wish].bit);
    expect(new Set(bits).size).toBe(bits.length);
    expect(wishesOf(bits.reduce((sum, bit) => sum | bit, 0))).toEqual(WISH_NAMES);
    expect(wishesOf(4)).toEqual([]);
  });
});
