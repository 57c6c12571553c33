export { SignIn } from './SignIn.tsx';
export { leaveAll, SignInAgain } from './SignInAgain.tsx';
