export { Pins } from './Pins.tsx';
