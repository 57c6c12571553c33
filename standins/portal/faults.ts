/** How the portal fails, when it is asked to. */
export const FAULTS = {
  busy: 'too many requests, wait a second',
  slow: 'it never answers',
  cut: 'the connection breaks before',
  'cut-after': 'the connection breaks after it did it',
  page: 'a web page in place of an answer',
  half: 'an answer that breaks off',
  error: 'a fault of its own',
  forgets: 'it forgot the cursor',
} as const;
export type Fault = keyof typeof FAULTS;
