import { createContext } from 'react';
import type { UseQueryOptions } from '@tanstack/react-query';
import type { ComponentType } from 'react';
import type { Role } from '@tallystick/contract/endpoint';
import type { Formats, Here } from './organization.tsx';

/** Whoever may call the endpoint is offered it; everyone where there is none. */
interface Offered {
  needs?: { role: Role | 'public' };
}

/** A page that has a name: found by it, and in the strip or the menu of the person where it says so. */
export interface Place extends Offered {
  name: string;
  path: string;
  in?: 'strip' | 'menu';
}

/** Something that can be added from anywhere. The smaller its `order`, the earlier it stands in the menu. */
export interface Adding extends Offered {
  label: string;
  order: number;
  keys?: string;
  /** A path to go to, or what to do. */
  go: string | (() => void);
}

/** A key that works anywhere (`run`), or on the area's own pages, which answer it themselves. */
export interface AreaKey extends Offered {
  key: string;
  says: string;
  run?: () => void;
}

/** A line of Today: so many of something wait there. */
export interface WaitLine {
  to: string;
  figure: number;
  words: string;
}

/** A question whose answer may say that something waits; what has the smaller `order` stands further up. */
export interface Waiting {
  order: number;
  question: (here: Here) => UseQueryOptions<unknown, Error, unknown, readonly unknown[]>;
  lines: (answer: unknown, formats: Formats, here: Here) => WaitLine[];
}

/** Pairs a question with what its answer says, the type of the one held to the other. */
export const waiting = <T, K extends readonly unknown[]>(
  order: number,
  question: (here: Here) => UseQueryOptions<T, Error, T, K>,
  lines: (answer: T, formats: Formats, here: Here) => WaitLine[],
): Waiting => ({ order, question, lines }) as unknown as Waiting;

/** What an area shows of itself outside its own pages. */
export interface WebArea {
  routes: readonly { path: string; load: () => Promise<{ default: ComponentType }> }[];
  places?: readonly Place[];
  adds?: readonly Adding[];
  keys?: readonly AreaKey[];
  waits?: readonly Waiting[];
}

/** What waits in all areas, given by the frame to the page that shows it. */
export const WaitsContext = createContext<readonly Waiting[]>([]);
