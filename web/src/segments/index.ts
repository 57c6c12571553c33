import { lazy } from 'react';

/** What is pinned to Today; it comes after the page, since most of what it can do is seldom needed there. */
export const Pins = lazy(async () => ({ default: (await import('./Pins.tsx')).Pins }));
