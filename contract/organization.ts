import { z } from 'zod';
import { endpoint } from './endpoint.ts';
import { Written } from './common.ts';

/** Whether a formatter can be made by what was given: it knows every code that there is. */
const known = (make: () => unknown): boolean => {
  try {
    make();
    return true;
  } catch {
    return false;
  }
};
const code = (pattern: RegExp, words: string, make: (code: string) => unknown, most = 60) =>
  z
    .string()
    .trim()
    .max(most, words)
    .refine((text) => pattern.test(text) && known(() => make(text)), words);

/** How the organization writes money and days, and where and when its own begin. */
export const OrganizationFormats = z.object({
  /** ISO 4217. */
  currency: code(
    /^[A-Z]{3}$/,
    'A currency is a code such as USD.',
    (currency) => new Intl.NumberFormat('en', { style: 'currency', currency }),
  ),
  /** BCP 47. */
  locale: code(
    /^[A-Za-z]{2,3}(-[A-Za-z0-9]{2,8})*$/,
    'A language is a code such as en-US.',
    (locale) => new Intl.DateTimeFormat(locale),
    20,
  ),
  /** IANA. */
  timeZone: code(
    /^[A-Za-z0-9_+/-]+$/,
    'A time zone is a name such as America/Denver.',
    (timeZone) => new Intl.DateTimeFormat('en', { timeZone }),
  ),
  fiscalYearStart: z.number().int().min(1).max(12),
  /** ISO 3166: the country that addresses without one are in. */
  country: code(/^[A-Z]{2}$/, 'A country is a code such as US.', (region) =>
    new Intl.DisplayNames('en', { type: 'region' }).of(region),
  ),
});
const Name = z.string().trim().min(1, 'The name of the organization is missing.').max(120);
/** What a new organization says of itself when its first administrator is made. */
export const OrganizationStart = OrganizationFormats.extend({ name: Name });

export const OrganizationDraft = OrganizationStart.extend({
  /** What stands at the head of letters below the name: the address, a line each. */
  letterhead: z.string().trim().max(300).default(''),
  taxId: z.string().trim().max(30).default(''),
  /** Who signs letters: the merge field for it. */
  signature: z.string().trim().max(200).default(''),
  /** The address that e-mails come from. */
  mailFrom: z.string().trim().toLowerCase().max(190).email('This is not an e-mail address.'),
});
export type OrganizationDraft = z.infer<typeof OrganizationDraft>;

const area = 'settings';
export const getOrganization = endpoint({
  id: 'getOrganization',
  area,
  method: 'get',
  path: '/organization',
  right: 'organization.see',
  summary: 'What the organization is called, how it writes, and where its mail goes.',
  response: OrganizationDraft.extend({
    version: z.number(),
    /** The server that takes our mail, without its password. */
    mailServer: z.string(),
    /** The address that people reach us at; null where it is not set. */
    publicUrl: z.string().nullable(),
    /** True once money was recorded: the currency then stays. */
    currencyStays: z.boolean(),
  }),
});
export const setOrganization = endpoint({
  id: 'setOrganization',
  area,
  method: 'put',
  path: '/organization',
  right: 'organization.change',
  summary: 'Change it; what was issued keeps the words that it had. The currency stays once there are gifts (409).',
  body: OrganizationDraft.extend({ version: z.number() }),
  response: Written,
});
export const testMail = endpoint({
  id: 'testMail',
  area,
  method: 'post',
  path: '/organization/test-mail',
  right: 'organization.send',
  summary: 'Sends one e-mail to the address given, now, and answers what became of it.',
  body: z.object({ to: z.string().trim().max(190).email('This is not an e-mail address.') }),
  response: z.object({ arrived: z.boolean(), says: z.string() }),
});
