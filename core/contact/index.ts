export { addressKey, phoneKey, postalKey } from './keys.ts';
export { readPhone } from './phone.ts';
export type { ReadPhone } from './phone.ts';
export { postalLines } from './postal.ts';
export { leastForm, standardAddress, streetForms, streetKey } from './standard.ts';
export type { Suggestion } from './standard.ts';
export * from './ways.ts';
