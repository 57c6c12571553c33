export { FINDING_NAMES, FINDINGS } from './findings.ts';
export type { Fault, Finding, Remedy } from './findings.ts';
export { homeAddress, homeFaults } from './homes.ts';
export type { LookedHome } from './homes.ts';
export { faultsOf, inWords, isBare, withArea } from './records.ts';
export type { Looked, When } from './records.ts';
