import { day, long, maybe, setUp, table, text, whole } from '../platform/tables.ts';

export interface OrganizationRow {
  name: string;
  /** As at the head of letters, a line each. */
  address: string;
  /** Who signs letters. */
  signature: string;
  tax_id: string;
  currency: string;
  locale: string;
  time_zone: string;
  fiscal_year_start: number;
  mail_from: string;
  secret: string;
  /** The rules of addressing as JSON; null for those that come with the product. */
  addressing: string | null;
  /** ISO code of the country that addresses without one are in. */
  country: string;
  /** The day through which the books are closed. */
  closed_through: string | null;
  /** What each fund came to in them when they were closed. */
  closed_sums: string | null;
}
export const OrganizationTable = table('organization', setUp('settings', 'Organization'), {
  name: text(120).says('name'),
  address: text(300).says('address'),
  tax_id: text(30).says('tax number'),
  currency: text(3).says('currency'),
  locale: text(20).says('language'),
  time_zone: text(60).says('time zone'),
  fiscal_year_start: whole.says('first month of the fiscal year'),
  mail_from: text(190).says('sender of e-mails'),
  country: text(2).says('country'),
  signature: text(200).says('signature'),
  addressing: maybe(long),
  closed_through: maybe(day),
  closed_sums: maybe(long),
});

export const DEFAULT_ORGANIZATION: OrganizationRow = {
  name: 'Our organization',
  address: '',
  signature: '',
  tax_id: '',
  currency: 'USD',
  locale: 'en-US',
  time_zone: 'America/New_York',
  fiscal_year_start: 1,
  mail_from: 'office@example.org',
  secret: '',
  addressing: null,
  country: 'US',
  closed_through: null,
  closed_sums: null,
};
