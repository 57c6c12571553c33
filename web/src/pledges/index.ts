export { PledgeDialog } from './PledgeDialog.tsx';
export { PledgesBar } from './PledgesBar.tsx';
export { RecurringDialog } from './RecurringDialog.tsx';
