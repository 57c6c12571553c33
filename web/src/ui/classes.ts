import { clsx } from 'clsx';
import type { ClassValue } from 'clsx';
import { twMerge } from 'tailwind-merge';

/** Joins class names; what is false or missing is left out, and of two that say the same thing the later holds. */
export const classes = (...names: ClassValue[]): string => twMerge(clsx(names));
