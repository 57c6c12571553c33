import { describe, expect, it } from 'vitest';
import { properCase } from './case.ts';

describe('properCase', () => {
  it.each([
    ["O'BRIEN", "O'Brien"],
    ['VAN DER BERG', 'van der Berg'],
    ['MCNAIR-HALL', 'McNair-Hall'],
    ['SMITH-MCDONALD', 'Smith-McDonald'],
    ["O'MACDONALD", "O'MacDonald"],
    ['MACHADO', 'Machado'],
    ['ÉLODIE', 'Élodie'],
    ["ST. MARY'S", "St. Mary's"],
  ])('%s', (text, cased) => expect(properCase(text)).toBe(cased));
});
