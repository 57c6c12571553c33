export { SignIn } from './SignIn.tsx';
