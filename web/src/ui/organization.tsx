import { createContext, useContext, useMemo } from 'react';
import { formatDate } from '@tallystick/core/dates';
import { formatMoney } from '@tallystick/core/money';
import type { Organization, User } from '@tallystick/contract/session';
import type { Role } from '@tallystick/contract/endpoint';
import { mayDo, mayTouch } from '@tallystick/contract/rights';
import type { Right } from '@tallystick/contract/rights';
import { showField } from '@tallystick/core/fields';
import type { CustomField, Kept } from '@tallystick/core/fields';
import { counted } from '@tallystick/core/words';

export interface Here {
  organization: Organization;
  user: User;
  mailInbox: string | null;
  cardProcessor: string | null;
  /** Whether links in e-mails lead to where people reach us. */
  addressSet: boolean;
}

const HereContext = createContext<Here | null>(null);
export const HereProvider = HereContext.Provider;

/** Who is signed in and to which organization; only inside the shell. */
export function useHere(): Here {
  const here = useContext(HereContext);
  if (!here) throw new Error('This part is used outside the shell.');
  return here;
}

/** Whether a role may call an endpoint. */
export const mayCall = (role: Role, endpoint: { role: Role | 'public' }): boolean =>
  endpoint.role === 'public' || mayDo(role, endpoint.role);

/** Whether the person signed in may call an endpoint, so that a screen offers what the server will take. */
export const useMay = (endpoint: { role: Role | 'public' }): boolean => mayCall(useHere().user.role, endpoint);

/** Tells of whose things the person signed in may call an endpoint: their own, or (an officer, say) everybody's. */
export function useMayTouch({ right }: { right: Right | 'public' }): (ownerId: number | null) => boolean {
  const { user } = useHere();
  return (ownerId) => right === 'public' || mayTouch(user, right, ownerId);
}

/** Money and dates as the organisation writes them. */
export function useFormats() {
  const { organization } = useHere();
  return useMemo(() => formatsOf(organization), [organization]);
}
export type Formats = ReturnType<typeof formatsOf>;

function formatsOf(organization: Organization) {
  const { locale, timeZone, currency } = organization;
  const short = new Intl.NumberFormat(locale, {
    ...{ style: 'currency', currency, notation: 'compact', maximumFractionDigits: 1 },
  } as Intl.NumberFormatOptions);
  const inMonth = new Intl.DateTimeFormat(locale, { month: 'long', year: 'numeric', timeZone: 'UTC' });
  const moment = new Intl.DateTimeFormat(locale, { dateStyle: 'medium', timeStyle: 'short', timeZone });
  return {
    money: (cents: number): string => formatMoney(cents, organization),
    /** Short enough for an axis: `$1.2K`. */
    shortMoney: (cents: number): string => short.format(cents / 100),
    date: (date: string | null): string => (date === null ? '' : formatDate(date, organization)),
    /** `2026-03` as `March 2026`. */
    month: (month: string): string => inMonth.format(new Date(`${month}-15T12:00:00Z`)),
    longDate: (date: string): string => formatDate(date, organization, 'long'),
    /** A custom field's value as it is read; nothing where there is none. */
    field: (field: Pick<CustomField, 'kind'>, value: Kept | undefined): string =>
      value === undefined ? '' : showField(field, value, organization),
    moment: (instant: string): string => moment.format(new Date(instant)),
    count: (value: number): string => value.toLocaleString(locale),
    /** `1 gift`, `2,310 gifts`. */
    gifts: (value: number): string => counted(value, 'gift', 'gifts', locale),
    /** `1 supporter`, `2,310 supporters`. */
    counted: (value: number, one: string, many?: string): string => counted(value, one, many, locale),
  };
}
