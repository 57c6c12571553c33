import { describe, expect, it } from 'vitest';
import { countParts, evaluate } from '@tallystick/core/segments';
import { askedOn, settingOf } from '../lib/asked.ts';
import { madeFacts } from '../lib/made-facts.ts';

/* What the bench times is the same question: segments and the loop by hand find as many, whatever the day. */
describe.each(['2026-11-23', '2028-02-29', '2027-12-31'])('what officers ask, on %s', (today) => {
  const calendar = { today, fiscalYearStart: 7 };
  const facts = madeFacts(6_000, 60_000, calendar);
  const setting = settingOf(facts, calendar);

  it('is made as many as was asked for', () => {
    expect([facts.size, facts.gifts.length]).toEqual([6_000, 60_000]);
  });

  it.each(askedOn(calendar).map((asked) => [asked.name, asked] as const))('%s', (_name, { group, loop }) => {
    const found = evaluate(group, facts, setting).count();
    expect([found, countParts(group, facts, setting).count]).toEqual([loop(facts), found]);
    expect(found).toBeGreaterThan(0);
    expect(found).toBeLessThan(facts.size * 0.9);
  });
});
