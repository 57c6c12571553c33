import { useEffect } from 'react';
import { useBlocker } from 'react-router';
import { unsavedHere } from '../ui/form/unsaved.ts';
import { AskToLeave } from '../ui/overlays.tsx';

/** Asks before another page takes the place of one on which something typed is not saved; so does the browser's tab. */
export function LeaveGuard() {
  const blocker = useBlocker(
    ({ currentLocation, nextLocation }) => unsavedHere.any && currentLocation.pathname !== nextLocation.pathname,
  );
  useEffect(() => {
    const ask = (event: BeforeUnloadEvent): void => {
      if (unsavedHere.reloading) event.preventDefault();
    };
    window.addEventListener('beforeunload', ask);
    return () => window.removeEventListener('beforeunload', ask);
  }, []);
  return (
    <AskToLeave
      open={blocker.state === 'blocked'}
      onStay={() => blocker.reset?.()}
      onLeave={() => {
        unsavedHere.drop();
        blocker.proceed?.();
      }}
    />
  );
}
