import { digitsOf, fold } from '../names/index.ts';
import { streetKey } from './standard.ts';
import type { PostalAddress } from './ways.ts';

/* What ways to reach somebody are known by, however they are written. */

/** A telephone number: its last ten digits. */
export const phoneKey = (text: string): string => digitsOf(text).slice(-10);
/** A ZIP or postal code: its first five signs. */
export const postalKey = (text: string): string => text.replace(/\s/g, '').slice(0, 5).toLowerCase();
/** An address: its street however it is shortened, with the first five signs of its code. */
export const addressKey = ({ street, city, postal }: Pick<PostalAddress, 'street' | 'city' | 'postal'>): string =>
  `${streetKey(street)}|${postalKey(postal) || fold(city)}`;
