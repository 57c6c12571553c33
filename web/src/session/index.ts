export { leaveAll } from './leave.ts';
