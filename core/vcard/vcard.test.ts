import fc from 'fast-check';
import ICAL from 'ical.js';
import { describe, expect, it } from 'vitest';
import { readCards, writeCard } from './index.ts';
import type { Card } from './index.ts';

const ana: Card = {
  kind: 'person',
  prefix: 'Dr.',
  first: 'Ana-María',
  middle: 'Lucía',
  last: 'de la Cruz; Smith',
  suffix: 'Jr., Ph.D.',
  nickname: 'Anita',
  organization: 'Cobalt, Bakery',
  birthday: '--02-29',
  emails: [{ address: 'ana@example.org', label: 'home', preferred: true }],
  phones: [{ number: '(775) 555-0142 ext. 3', label: 'mobile', preferred: false }],
  addresses: [
    {
      street: '434 Perseid Pl\nApt 2',
      city: 'Tansy Creek',
      region: 'NV',
      postal: '89937',
      country: 'US',
      label: 'work',
      preferred: true,
    },
  ],
  tags: ['Major donor', 'a,b\\c'],
};

/** What ical.js, a parser of its own, reads of a card: each property's name with its first value. */
function asOthersRead(text: string): Record<string, unknown> {
  const parsed = ICAL.parse(text) as unknown as [string, [string, object, string, ...unknown[]][]];
  return Object.fromEntries(parsed[1].map(([name, , , ...values]) => [name, values.length === 1 ? values[0] : values]));
}

it('a name with a lone carriage return makes no line of its own', () => {
  const written = writeCard({ ...ana, last: 'A\rNOTE:x' }, 'A');
  expect(written.split('\r\n').filter((line) => line.includes('\r'))).toEqual([]);
  expect(written).toContain('A\\nNOTE:x');
});

describe('vCard', () => {
  it.each(['3.0', '4.0'] as const)('%s comes back as it went out', (version) => {
    const [read] = readCards(writeCard(ana, 'Dr. Ana-María de la Cruz', version));
    const besides = { fullName: 'Dr. Ana-María de la Cruz', jobTitle: '', note: '', besides: [] };
    expect(read).toEqual({ ...ana, ...(version === '4.0' ? {} : { birthday: '' }), ...besides });
  });

  it.each(['3.0', '4.0'] as const)('%s is read alike by another parser', (version) => {
    const read = asOthersRead(writeCard(ana, 'Ana', version));
    expect(read).toMatchObject({
      version,
      fn: 'Ana',
      n: ['de la Cruz; Smith', 'Ana-María', 'Lucía', 'Dr.', 'Jr., Ph.D.'],
      nickname: 'Anita',
      email: 'ana@example.org',
      tel: '(775) 555-0142 ext. 3',
      adr: ['', '', '434 Perseid Pl\nApt 2', 'Tansy Creek', 'NV', '89937', 'US'],
      categories: ana.tags,
    });
  });

  it('reads a card of version 3 as others write it', () => {
    const [card] = readCards(
      'BEGIN:VCARD\r\nVERSION:3.0\r\nN:Farr;Oren;;;\r\nFN:Oren Farr\r\nORG:Farr & Sons;Sales\r\nitem1.EMAIL;TYPE=INTERNET,WORK,pref:oren@exam\r\n ple.com\r\nTEL;HOME:+1 775 555 0101\r\nADR;TYPE="home":;Suite 5;12 Lyra St;Tansy Creek;NV;89937;\r\nBDAY:1961-03-14T00:00:00Z\r\nPHOTO;ENCODING=b:AAAA\r\nEND:VCARD\r\n',
    );
    expect(card).toMatchObject({
      kind: 'person',
      first: 'Oren',
      last: 'Farr',
      organization: 'Farr & Sons',
      birthday: '1961-03-14',
      emails: [{ address: 'oren@example.com', label: 'work', preferred: true }],
      phones: [{ number: '+1 775 555 0101', label: 'home' }],
      addresses: [{ street: '12 Lyra St\nSuite 5', label: 'home' }],
    });
  });

  it('knows an organization and a household', () => {
    const firm = {
      ...ana,
      kind: 'organization' as const,
      first: '',
      middle: '',
      last: '',
      prefix: '',
      suffix: '',
      nickname: '',
    };
    expect(readCards(writeCard(firm, 'Cobalt', '3.0'))[0]?.kind).toBe('organization');
    expect(readCards(writeCard({ ...firm, kind: 'household' }, 'Cobalt', '4.0'))[0]?.kind).toBe('household');
  });

  it('reads nothing of what is no card, and takes several of one file', () => {
    expect(readCards('hello\nBEGIN:VCARD\nN:Half')).toEqual([]);
    expect(readCards(writeCard(ana, 'a') + writeCard(ana, 'b'))).toHaveLength(2);
  });

  it('keeps any text whatever, in lines of at most 75 octets', () => {
    const text = fc.string({ unit: 'grapheme', maxLength: 120 }).map((one) => one.replace(/[\r\n\p{Cc}]/gu, '').trim());
    fc.assert(
      fc.property(text, text, (last, first) => {
        const written = writeCard({ ...ana, last, first }, 'x');
        expect(readCards(written)[0]).toMatchObject({ last, first });
        for (const line of written.split('\r\n')) expect(new TextEncoder().encode(line).length).toBeLessThanOrEqual(75);
      }),
    );
  });
});
