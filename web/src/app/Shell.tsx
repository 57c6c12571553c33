import { useQuery } from '@tanstack/react-query';
import { lazy, Suspense, useEffect, useState } from 'react';
import { Outlet } from 'react-router';
import { Toaster } from 'sonner';
import { getSession } from '@tallystick/contract/session';
import type { SessionState } from '@tallystick/contract/session';
import { GiftDialogHost } from '../gifts/index.ts';
import { leaveAll } from '../session/index.ts';
import { ask, isAway } from '../ui/api.ts';
import { Empty, Trouble } from '../ui/controls.tsx';
import { HereProvider } from '../ui/organization.tsx';
import { signedInAgain } from '../ui/signedOut.ts';
import { WaitsContext } from '../ui/area.ts';
import { WAITS } from './areas.ts';
import { LeaveGuard } from './LeaveGuard.tsx';
import { Strip } from './Strip.tsx';
import { Tray } from './Tray.tsx';
import { useKeepFocus } from './useKeepFocus.ts';
import { useStream } from './useStream.ts';
import { useWaiting } from './useWaiting.ts';

// Whoever is signed in does not need them.
const SignIn = lazy(() => import('../session/SignIn.tsx'));
const SignInAgain = lazy(() => import('../session/SignInAgain.tsx'));

/** The frame of every page: the strip above, the work, the tray below; or the sign-in page. */
export function Shell() {
  const session = useQuery({ ...ask(getSession), staleTime: Infinity });
  if (session.isPending)
    return session.failureCount > 0 && isAway(session.failureReason) ? (
      <Empty title="The server is not answering">
        <p role="alert">{session.failureReason?.message} This page goes on by itself.</p>
      </Empty>
    ) : (
      <div className="p-8 text-faded">Opening …</div>
    );
  if (session.isError) return <Trouble error={session.error} />;
  return <Entered state={session.data} />;
}

/** The work of who is signed in; where their session ends under it, it stays, with a way back in over it. */
function Entered({ state }: { state: SessionState }) {
  const [user, setUser] = useState(state.user);
  const now = state.user;
  const another = now !== null && user !== null && now.id !== user.id;
  if (now && now !== user && !another) setUser(now);
  useEffect(() => {
    if (another) leaveAll();
    else if (now) signedInAgain();
  }, [another, now]);
  const { organization, mailInbox, cardProcessor, addressSet } = state;
  if (!user)
    return (
      <Suspense>
        <SignIn state={state} />
      </Suspense>
    );
  return (
    <HereProvider value={{ user, organization, mailInbox, cardProcessor, addressSet }}>
      <Frame />
      {!state.user && (
        <Suspense>
          <SignInAgain state={state} user={user} />
        </Suspense>
      )}
    </HereProvider>
  );
}

function Frame() {
  useKeepFocus();
  const cutOff = useStream();
  const waiting = useWaiting();
  return (
    <div className="flex h-full flex-col">
      <a href="#work" className="sr-only focus:not-sr-only focus:absolute focus:z-50 focus:bg-sheet focus:p-2">
        Skip to the work
      </a>
      <Strip />
      {(cutOff || waiting) && (
        <div role="alert" className="bg-straw px-5 py-1.5 text-straw-ink">
          ◆ The server or its database is not answering. What is on the screen stays; nothing you typed is lost. Trying
          again …
        </div>
      )}
      <main id="work" tabIndex={-1} className="flex min-h-0 flex-1 flex-col overflow-auto outline-none">
        <Suspense fallback={<div className="p-8 text-faded">Opening …</div>}>
          <WaitsContext value={WAITS}>
            <Outlet />
          </WaitsContext>
        </Suspense>
      </main>
      <Tray />
      <GiftDialogHost />
      <LeaveGuard />
      <Toaster
        position="bottom-right"
        offset={48}
        toastOptions={{
          style: {
            background: 'var(--sheet)',
            color: 'var(--ink)',
            borderColor: 'var(--rule)',
            borderRadius: 4,
            boxShadow: 'none',
          },
        }}
      />
    </div>
  );
}
