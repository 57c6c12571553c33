/** Joins class names; what is false or missing is left out. */
export const classes = (...names: (string | false | null | undefined)[]): string => names.filter(Boolean).join(' ');
