import { describe, expect, it } from 'vitest';
import { KIND_NAMES, kindOfCode, SUPPORTER_KINDS, supporterIdOf, supporterNumber } from './index.ts';

describe('numbers of supporters', () => {
  it.each([
    ['S-10482', 10_482],
    ['s10482', 10_482],
    [' 10482 ', 10_482],
    ['G-20931', null],
    ['S-', null],
    ['S-1234567890', null],
    ['10482x', null],
  ])('%j is supporter %s', (text, expected) => expect(supporterIdOf(text)).toBe(expected));
  it('are made from ids', () => expect(supporterNumber(10_482)).toBe('S-10482'));
});

describe('kinds', () => {
  it('have codes of their own, from which they are told again', () => {
    expect(new Set(KIND_NAMES.map((kind) => SUPPORTER_KINDS[kind].code)).size).toBe(KIND_NAMES.length);
    for (const kind of KIND_NAMES) expect(kindOfCode(SUPPORTER_KINDS[kind].code)).toBe(kind);
  });
});
