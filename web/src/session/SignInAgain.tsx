import { Dialog } from 'radix-ui';
import { useEffect, useRef } from 'react';
import type { SessionState, User } from '@tallystick/contract/session';
import { Button } from '../ui/controls.tsx';
import { focusBefore } from '../ui/focus.ts';
import { leaveAll } from './leave.ts';
import { arrived, Entrance } from './SignIn.tsx';

/**
 * Signing in over the page when the session ended under it: what is on the page stands as it was, and what was on its
 * way goes on. It takes the focus and no field does, so that what is being typed lands nowhere. Who is somebody else
 * begins with a page of their own.
 */
export default function SignInAgain({ state, user }: { state: SessionState; user: User }) {
  const before = useRef<HTMLElement | null>(null);
  useEffect(() => void arrived(), []);
  return (
    <Dialog.Root open>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-60 bg-black/35" />
        <Dialog.Content
          tabIndex={-1}
          onOpenAutoFocus={(event) => {
            const dialog = event.currentTarget as HTMLElement;
            before.current = focusBefore(dialog);
            event.preventDefault();
            dialog.focus();
          }}
          onCloseAutoFocus={(event) => {
            event.preventDefault();
            before.current?.focus({ preventScroll: true });
          }}
          className="fixed top-[12vh] left-1/2 z-60 max-h-[80vh] w-[calc(100vw-2rem)] max-w-md -translate-x-1/2 overflow-auto rounded border border-rule bg-paper px-5 py-4 outline-none"
        >
          <Dialog.Title className="text-lg">Your session has ended, {user.name}</Dialog.Title>
          <Dialog.Description className="mt-1 text-faded">
            Sign in again to go on. Everything stands as it was, and what you were saving is saved then.
          </Dialog.Description>
          <Entrance demoUsers={state.demoUsers} email={user.email} onCame={() => void arrived()} />
          <p className="mt-4 border-t border-rule pt-3">
            <Button look="quiet" onClick={leaveAll}>
              Sign in as somebody else
            </Button>{' '}
            <span className="text-faded">What is not saved here is gone then.</span>
          </p>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
