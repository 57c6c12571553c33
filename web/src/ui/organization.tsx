import { createContext, useContext } from 'react';
import { formatDate } from '@tallystick/core/dates';
import { formatMoney } from '@tallystick/core/money';
import type { Organization, User } from '@tallystick/contract/session';
import { ROLES } from '@tallystick/contract/endpoint';
import type { Role } from '@tallystick/contract/endpoint';

export interface Here {
  organization: Organization;
  user: User;
  mailRoom: string | null;
  till: string | null;
}

const HereContext = createContext<Here | null>(null);
export const HereProvider = HereContext.Provider;

/** Who is signed in and to which organization; only inside the shell. */
export function useHere(): Here {
  const here = useContext(HereContext);
  if (!here) throw new Error('This part is used outside the shell.');
  return here;
}

/** Whether the person signed in may do what `least` may. */
export function useMay(least: Role): boolean {
  return ROLES.indexOf(useHere().user.role) >= ROLES.indexOf(least);
}

/** Money and dates as the organisation writes them. */
export function useFormats() {
  const { organization } = useHere();
  const { currency, locale, timeZone } = organization;
  return {
    money: (cents: number): string => formatMoney(cents, currency, locale),
    date: (date: string | null): string => (date === null ? '' : formatDate(date, locale)),
    moment: (instant: string): string =>
      new Intl.DateTimeFormat(locale, { dateStyle: 'medium', timeStyle: 'short', timeZone }).format(new Date(instant)),
    count: (value: number): string => value.toLocaleString(locale),
    /** `1 gift`, `2,310 gifts`. */
    gifts: (value: number): string => `${value.toLocaleString(locale)} ${value === 1 ? 'gift' : 'gifts'}`,
  };
}
