import { useMemo } from 'react';
import { z } from 'zod';
import { countryName } from '@tallystick/core/regions';
import type { Option } from './choice/index.tsx';
import { ChoiceField } from './form/index.ts';
import type { Entry } from './form/index.ts';

/** What is typed of how an organization writes money and days. */
export interface TypedFormats {
  currency: string;
  locale: string;
  timeZone: string;
  fiscalYearStart: string;
  country: string;
}

/** Reads it as the request takes it. */
export const typedFormats = {
  currency: z.string(),
  locale: z.string(),
  timeZone: z.string(),
  fiscalYearStart: z.string().transform(Number),
  country: z.string(),
};

/** What this browser is set to, as what a new organization most likely wants. */
export function browserFormats(): TypedFormats {
  const { locale, timeZone } = new Intl.DateTimeFormat().resolvedOptions();
  const country = new Intl.Locale(locale).maximize().region ?? 'US';
  return { currency: CURRENCY_OF[country] ?? 'USD', locale, timeZone, fiscalYearStart: '1', country };
}

const EURO = 'AT BE CY DE EE ES FI FR GR HR IE IT LT LU LV MT NL PT SI SK'.split(' ');
const CURRENCY_OF: Record<string, string> = {
  ...Object.fromEntries(EURO.map((country) => [country, 'EUR'])),
  ...{ US: 'USD', CA: 'CAD', GB: 'GBP', AU: 'AUD', NZ: 'NZD', CH: 'CHF', SE: 'SEK', NO: 'NOK', DK: 'DKK', IN: 'INR' },
  ...{ JP: 'JPY', MX: 'MXN', ZA: 'ZAR', BR: 'BRL', PL: 'PLN', CZ: 'CZK', HU: 'HUF', IL: 'ILS', KE: 'KES' },
};
const LOCALES = (
  'en-US en-CA en-GB en-AU en-NZ en-IE en-IN en-ZA fr-FR fr-CA fr-CH de-DE de-AT de-CH es-ES es-MX es-US it-IT ' +
  'nl-NL nl-BE pt-PT pt-BR da-DK sv-SE nb-NO fi-FI pl-PL cs-CZ hu-HU he-IL ja-JP'
).split(' ');

const names = (type: 'currency' | 'language') => new Intl.DisplayNames('en', { type });
const sorted = (options: Option[]): Option[] => options.sort((a, b) => a.label.localeCompare(b.label));

function formatOptions(chosen: TypedFormats) {
  const month = new Intl.DateTimeFormat('en', { month: 'long', timeZone: 'UTC' });
  const [currency, language] = [names('currency'), names('language')];
  const countries = Array.from({ length: 26 * 26 }, (_, place) =>
    String.fromCharCode(65 + Math.floor(place / 26), 65 + (place % 26)),
  ).filter((code) => countryName(code) !== code);
  return {
    currency: sorted(
      Intl.supportedValuesOf('currency').map((code) => ({ value: code, label: currency.of(code) ?? code, also: code })),
    ),
    locale: sorted(
      [...new Set([chosen.locale, ...LOCALES])].map((code) => ({
        value: code,
        label: language.of(code) ?? code,
        also: new Intl.NumberFormat(code, { style: 'currency', currency: chosen.currency }).format(1234.5),
      })),
    ),
    timeZone: [...new Set([chosen.timeZone, ...Intl.supportedValuesOf('timeZone')])].map((zone) => ({
      value: zone,
      label: zone.replace(/_/g, ' '),
    })),
    month: Array.from({ length: 12 }, (_, place) => ({
      value: String(place + 1),
      label: month.format(new Date(Date.UTC(2000, place, 15))),
    })),
    country: sorted(countries.map((code) => ({ value: code, label: countryName(code), also: code }))),
  };
}

/** How money and days are written, and where and when the organization's own begin. */
export function FormatFields<Typed extends TypedFormats>(props: { entry: Entry<Typed>; currencyStays?: boolean }) {
  const entry = props.entry as unknown as Entry<TypedFormats>;
  const { currency, locale, timeZone, fiscalYearStart, country } = entry.typed;
  const options = useMemo(
    () => formatOptions({ currency, locale, timeZone, fiscalYearStart, country }),
    [currency, locale, timeZone, fiscalYearStart, country],
  );
  return (
    <>
      <ChoiceField
        entry={entry}
        name="currency"
        label="Currency"
        options={options.currency}
        disabled={props.currencyStays}
        hint={props.currencyStays ? 'It stays, since there are gifts in it.' : undefined}
      />
      <ChoiceField entry={entry} name="fiscalYearStart" label="Fiscal year begins in" options={options.month} />
      <ChoiceField entry={entry} name="timeZone" label="Time zone" options={options.timeZone} />
      <ChoiceField entry={entry} name="locale" label="Writes like" options={options.locale} />
      <ChoiceField entry={entry} name="country" label="Country" options={options.country} />
    </>
  );
}
