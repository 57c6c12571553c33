import { describe, expect, it } from 'vitest';
import { caredFor, carer, caresFor } from './index.ts';

describe('caredFor', () => {
  it.each([
    ['MCDONALD', 'McDonald'],
    ['VAN DER BERG', 'van der Berg'],
    ['ana', 'Ana'],
    ['DeShawn', 'DeShawn'],
    ['IBM', 'IBM'],
    ['ACME LLC', 'Acme LLC'],
    ['12 PERSEID PL', '12 Perseid Pl'],
    ['NG', 'Ng'],
    ['', ''],
  ])('writes %s as %s', (cell, written) => expect(caredFor(cell, { names: true })).toBe(written));
  it('translates whatever the letters and spaces are like, then fills what is empty', () => {
    const care = { translate: { US: 'United States', none: '' }, otherwise: 'Canada' };
    expect(['us', ' US ', 'None', '', 'Peru'].map((cell) => caredFor(cell, care))).toEqual([
      'United States',
      'United States',
      'Canada',
      'Canada',
      'Peru',
    ]);
  });
});

describe('carer', () => {
  it('adds what is the same for all rows after the columns of the file, and nothing that has a column', () => {
    const { columns, cells } = carer({ 0: { names: true } }, ['last', null, 'tag'], { tag: 'gala', method: 'check' });
    expect(columns).toEqual(['last', null, 'tag', 'method']);
    expect(cells(['CRUZ'])).toEqual(['Cruz', '', '', 'check']);
    // A row that is too long is still seen to be.
    expect(cells(['CRUZ', 'a', 'b', 'c', 'd'])).toEqual(['Cruz', 'a', 'b', 'c', 'd']);
    // One that was cut off before its amount too.
    expect(carer({}, ['last', 'amount'], { tag: 'gala' }).cells(['Cruz'])).toEqual(['Cruz']);
    expect(carer({}, ['last', 'amount'], { tag: 'gala' }).cells(['Cruz', ''])).toEqual(['Cruz', '', 'gala']);
  });
  it('leaves rows as they are where nothing is to be done', () => {
    const row = ['Cruz'];
    expect(carer({}, ['last'], {}).cells(row)).toBe(row);
  });
});

describe('caresFor', () => {
  it('sees capitals, and labels in headings', () =>
    expect(
      caresFor(
        ['First', 'Last', 'Work e-mail', 'Cell'],
        ['first', 'last', 'email', 'phone'],
        [
          ['Ana', 'CRUZ', 'A@EXAMPLE.ORG', '1'],
          ['Bo', 'LOWELL', 'b@example.org', '2'],
        ],
      ),
    ).toEqual({ 1: { names: true }, 2: { label: 'work' }, 3: { label: 'mobile' } }));
  it('sees nothing where there is nothing', () => expect(caresFor(['First'], ['first'], [[''], ['']])).toEqual({}));
});
