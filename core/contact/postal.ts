import * as templates from '@fragaria/address-formatter';
import { countryCode, countryName } from '../regions/index.ts';
import type { PostalAddress } from './ways.ts';

// Node sees the package's CommonJS build through its default export, bundlers its ES build.
const { format } = 'default' in templates ? (templates.default as typeof templates) : templates;

/**
 * The lines of an address in the order of its country, by OpenCage's address templates. The country is named, in
 * capitals as postal services ask, only where it is not the sender's own (`home`, ISO code).
 */
export function postalLines(address: PostalAddress, home: string): string[] {
  const { street, city, region, postal, country } = address;
  if (![street, city, region, postal, country].some((part) => part.trim() !== '')) return [];
  const code = countryCode(country, home);
  const streets = street.split('\n').map((line) => line.trim());
  const town = [city, [region, postal].filter(Boolean).join(' ')].filter(Boolean).join(', ');
  const lines = code === null ? [town] : townLines(city, region, postal, code);
  const abroad = code !== home && country !== '' ? [(code === null ? country : countryName(code)).toUpperCase()] : [];
  return [...streets, ...lines, ...abroad].filter((line) => line !== '');
}

/** Towns that were written last: the templates take half a millisecond each, and most people live where others do. */
const written = new Map<string, readonly string[]>();
const MOST_WRITTEN = 20_000;

/** A town, its state and code as its country writes them. */
function townLines(city: string, region: string, postal: string, country: string): readonly string[] {
  const key = JSON.stringify([country, city, region, postal]);
  const known = written.get(key);
  if (known) return known;
  const lines = format({ city, state: region, postcode: postal, countryCode: country }, { output: 'array' });
  if (written.size >= MOST_WRITTEN) written.clear();
  const trimmed = lines.map((line) => line.trim());
  written.set(key, trimmed);
  return trimmed;
}
