export { SendingsBar } from './SendingsBar.tsx';
