export { installmentsOf, MOST_INSTALLMENTS, type DraftInstallment, type PledgePlan } from './plan.ts';
export {
  allocate,
  pledgeAt,
  remaining,
  resized,
  type Installment,
  type InstallmentState,
  type PledgeBooks,
  type PledgeStanding,
  type Settled,
} from './standing.ts';

/** What is promised: a donor's pledge, a funder's grant, an employer's match of an employee's gift. */
export const PLEDGE_KINDS = { pledge: 'Pledge', grant: 'Grant', match: 'Matching gift' } as const;
export type PledgeKind = keyof typeof PLEDGE_KINDS;

/** Where a grant or a match stands before money comes; a pledge is `promised` from the first. */
export const PLEDGE_STAGES = {
  asked: 'Applied for',
  promised: 'Promised',
  claimed: 'Claimed',
  declined: 'Declined',
} as const;
export type PledgeStage = keyof typeof PLEDGE_STAGES;

/** Whether what is open of it is owed: it was promised, and not declined. */
export const isOwed = (stage: PledgeStage): boolean => stage === 'promised' || stage === 'claimed';

/** `P-312`: the number people read. */
export const pledgeNumber = (id: number): string => `P-${id}`;
