import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { makeGifts } from './gifts.ts';
import { portalLines } from './portal.ts';
import { Chance } from './random.ts';
import { makeSupporters } from './supporters.ts';

const make = (today: string) => {
  const chance = new Chance(20_260_701);
  const supporters = makeSupporters(2400, chance);
  return { supporters, gifts: supporters.map((one) => makeGifts(one, today, chance)) };
};

describe('the demo', () => {
  const { supporters, gifts } = make('2026-11-23');
  const all = gifts.flat();

  it('is the same for the same day', () => expect(make('2026-11-23')).toEqual({ supporters, gifts }));

  it('has the size of the scenario', () => {
    expect(supporters).toHaveLength(2400);
    expect(all.length).toBeGreaterThan(13_000);
    expect(all.length).toBeLessThan(15_000);
    const years = new Set(all.map((gift) => gift.date.slice(0, 4)));
    expect(years.size).toBeGreaterThanOrEqual(8);
  });

  it('holds nothing from the future and thanks nobody before the gift', () => {
    for (const gift of all) {
      expect(gift.date <= '2026-11-23').toBe(true);
      expect(gift.cents).toBeGreaterThan(0);
      if (gift.acknowledgedOn !== null) expect(gift.acknowledgedOn > gift.date).toBe(true);
    }
    expect(all.some((gift) => gift.acknowledgedOn === null)).toBe(true);
  });

  it('names no real place on the net or on the telephone', () => {
    for (const { email, phone } of supporters) {
      if (email) expect(email).toMatch(/@(?:(?:bounce|gone)\.)?example\.(?:org|com|net)$/);
      if (phone) expect(phone).toMatch(/555-01\d\d$/);
    }
  });

  it('is honestly messy', () => {
    expect(supporters.some((one) => one.name.last !== '' && one.name.last === one.name.last.toUpperCase())).toBe(true);
    expect(supporters.some((one) => one.emailBounced)).toBe(true);
    expect(supporters.some((one) => one.diedDaysAgo !== null)).toBe(true);
    const emails = supporters.flatMap((one) => one.email ?? []);
    expect(new Set(emails).size).toBeLessThan(emails.length);
  });
});

it('the portal export is Windows-1252 with semicolons and decimal commas', () => {
  const bytes = readFileSync(join(import.meta.dirname, 'files', 'giving-portal-export.csv'));
  expect(() => new TextDecoder('utf-8', { fatal: true }).decode(bytes)).toThrow();
  const text = new TextDecoder('windows-1252').decode(bytes);
  expect(text).toContain('Café');
  expect(text.split('\r\n')[0]?.split(';')).toHaveLength(14);
  expect(text).toMatch(/;1\.250,00;/);
  expect(text).toContain('$1,250.00');
});

it('half of the givers of the portal export are supporters, by e-mail', () => {
  const text = readFileSync(join(import.meta.dirname, 'files', 'giving-portal-export.csv'), 'latin1');
  const emails = new Set(makeSupporters(2400, new Chance(20_260_701)).map(({ email }) => email));
  const known = text.split('\r\n').filter((line) => emails.has(line.split(';')[4] ?? ''));
  expect(known.length).toBeGreaterThan(90);
});

describe('what the portal of the demo holds', () => {
  const lines = portalLines('2026-11-23');
  const gifts = lines.flatMap((line) => ('gift' in line ? [line.gift] : []));

  it('is the same for the same day, and nothing of the future', () => {
    expect(portalLines('2026-11-23')).toEqual(lines);
    expect(new Set(gifts.map(({ id }) => id)).size).toBe(gifts.length);
    expect(gifts.every(({ at }) => at <= '2026-11-23')).toBe(true);
  });

  it('is mostly by supporters, at addresses that are nobody’s', () => {
    const emails = new Set(makeSupporters(2400, new Chance(20_260_701)).map(({ email }) => email));
    expect(gifts.filter(({ donor }) => emails.has(donor.email)).length).toBeGreaterThan(gifts.length * 0.7);
    for (const { donor } of gifts) expect(donor.email).toMatch(/[@.]example\.(?:org|com|net)$/);
  });

  it('gives back only what was given, whole', () => {
    const refunds = lines.flatMap((line) => ('refund' in line ? [line.refund] : []));
    expect(refunds.length).toBeGreaterThan(0);
    for (const { gift, cents } of refunds) expect(gifts.find(({ id }) => id === gift)?.cents).toBe(cents);
  });
});
