export { PledgeDialog } from './PledgeDialog.tsx';
export { RecurringDialog } from './RecurringDialog.tsx';
