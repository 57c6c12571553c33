import { describe, expect, it } from 'vitest';
import { heldBack } from './held.ts';
import { mayReach, WISH_NAMES, WISHES, wishesOf } from './index.ts';
import type { Channel, Purpose, SendingSubject, Wish } from './index.ts';

const TODAY = '2026-11-23';
const reachable: SendingSubject = {
  reach: 'ana@example.org',
  bad: false,
  wishes: [],
  trashed: false,
  lastSentOn: null,
};

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
    [{ reach: null }, 'no e-mail address'],
    [{ bad: true }, 'e-mail bounced'],
    [{ trashed: true, wishes: ['deceased'] }, 'in the trash'],
    [{ wishes: ['deceased', 'no_email'], reach: null }, 'deceased'],
    [{ wishes: ['no_email'], reach: null }, 'wants no e-mail'],
  ])('%j: the weightiest is told', (more, why) =>
    expect(heldBack('email', 'news', { ...reachable, ...more }, TODAY)).toBe(why),
  );
});

describe('mayReach', () => {
  const print = (instead: string) => ({ by: 'mail', address: '', instead });
  it.each<[Purpose, Partial<SendingSubject>, unknown]>([
    ['receipt', {}, { by: 'email', address: 'ana@example.org', instead: null }],
    ['receipt', { reach: null }, print('no e-mail address')],
    ['receipt', { bad: true }, print('e-mail bounced')],
    ['receipt', { wishes: ['no_email'] }, print('wants no e-mail')],
    ['receipt', { wishes: ['deceased'] }, print('deceased')],
    ['receipt', { wishes: ['receipts_only'] }, { by: 'email', address: 'ana@example.org', instead: null }],
    ['receipt', { trashed: true }, { held: 'in the trash' }],
    ['news', {}, { by: 'email', address: 'ana@example.org', instead: null }],
    ['news', { reach: null }, { held: 'no e-mail address' }],
    ['appeal', { wishes: ['no_solicitation'] }, { held: 'does not want to be asked' }],
    ['appeal', { trashed: true }, { held: 'in the trash' }],
  ])('%s, %j', (purpose, over, expected) =>
    expect(mayReach({ ...reachable, ...over }, purpose, TODAY)).toEqual(expected),
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
