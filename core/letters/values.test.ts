import { describe, expect, it } from 'vitest';
import { FIELDS } from '../catalogue/index.ts';
import {
  CATALOGUED,
  MERGE_FIELDS,
  mergeFieldWord,
  mergeLetter,
  mergeLine,
  mergeValues,
  unknownFields,
} from './index.ts';
import type { MergeSubject } from './index.ts';

const setting = { organization: 'Juniper Basin', currency: 'USD', locale: 'en-US', today: '2026-11-23' };
const gift = {
  ...{ id: 20_001, cents: 2_500, date: '2026-11-02', fund: 'Telescope Van', receiptNumber: '' },
  ...{ benefitCents: 500, deductibleCents: 2_000 },
};
const person: MergeSubject = {
  id: 10_001,
  addressing: { addressee: 'Dr. Ana Cruz', formal: 'Dr. Cruz', informal: 'Ana' },
  fields: { field4: 'Pulsar' },
  lifetimeCents: 2_500,
  lastGiftOn: '2026-11-02',
  name: { kind: 'person', prefix: 'Dr.', first: 'Ana', middle: '', last: 'Cruz', suffix: '', organization: '' },
  gift,
};

describe('every merge field', () => {
  it.each(Object.keys(MERGE_FIELDS))('%s has a value in a letter about a gift', (field) => {
    const doc = {
      type: 'doc',
      content: [{ type: 'paragraph', content: [{ type: 'mergeField', attrs: { field, fallback: '' } }] }],
    };
    const { blocks, missing } = mergeLetter(doc, mergeValues(person, setting));
    expect(missing).toEqual([]);
    expect(blocks[0]?.runs[0]?.text).not.toBe('');
  });

  it('takes a custom field by its number, in a letter and in a line', () => {
    const values = mergeValues(person, setting);
    expect(mergeLine('{field4|none} and {field9|none}, {a.first}', values).text).toBe('Pulsar and none, {a.first}');
  });

  it('takes a field of the catalogue by its name there, and none that a field of its own tells', () => {
    const values = mergeValues({ ...person, fields: { 'former-last': 'Diaz', town: 'Ely' } }, setting);
    expect(mergeLine('{former-last}, {town|nowhere}, {nickname|friend}', values).text).toBe('Diaz, Ely, friend');
    expect(Object.keys(CATALOGUED).filter((name) => name in MERGE_FIELDS)).toEqual([]);
    expect(mergeFieldWord('former-last')).toBe(FIELDS['former-last'].label);
    expect([mergeFieldWord('first'), mergeFieldWord('field4')]).toEqual([MERGE_FIELDS.first, 'field4']);
    const body = { type: 'doc', content: [] };
    expect(unknownFields({ subject: '{town} {shoes} {field4} {field5}', body }, [4])).toEqual(['shoes', 'field5']);
  });

  it('writes money and dates as the organisation does', () => {
    const german = mergeValues(person, { ...setting, currency: 'EUR', locale: 'de-DE' });
    expect(german.giftAmount?.replace(/\s/g, ' ')).toBe('25,00 €');
    expect(german.giftDate).toBe('2. November 2026');
  });

  it('describes what was given in kind and never values it', () => {
    const gift = {
      id: 20_001,
      cents: 90_000,
      date: '2026-11-02',
      fund: 'General',
      receiptNumber: '',
      description: 'A dome',
    };
    const values = mergeValues({ ...person, gift }, setting);
    expect(values).toMatchObject({ giftAmount: 'A dome', deductible: '' });
    expect(JSON.stringify(values)).not.toContain('900');
  });

  it('says how much of a split gift went to which fund, but not of what is not valued', () => {
    const parts = [
      { fund: 'General', cents: 1_500 },
      { fund: 'Dome', cents: 1_000 },
    ];
    const split = { ...gift, fund: 'General + Dome', parts };
    const fund = (over: object, locale = 'en-US') =>
      mergeValues({ ...person, gift: { ...split, ...over } }, { ...setting, locale }).fund;
    expect(fund({})).toBe('General ($15.00) and Dome ($10.00)');
    expect(fund({}, 'de-DE')).toContain(' und ');
    expect(fund({ description: 'A dome' })).toBe('General + Dome');
    expect(fund({ parts: parts.slice(0, 1), fund: 'General' })).toBe('General');
  });

  it('names the gift by its own number while its receipt has none', () =>
    expect(mergeValues(person, setting).receiptNumber).toBe('G-20001'));
});
