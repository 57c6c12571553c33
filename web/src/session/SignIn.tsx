import { useState } from 'react';
import { z } from 'zod';
import { createFirstUser, getSession, signIn } from '@tallystick/contract/session';
import type { SessionState } from '@tallystick/contract/session';
import { ROLE_NAMES } from '@tallystick/contract/endpoint';
import { call, keyOf, queries } from '../ui/api.ts';
import { Button } from '../ui/controls.tsx';
import { browserFormats, FormatFields, typedFormats } from '../ui/FormatFields.tsx';
import { EntryForm, Fault, NewPasswordField, readInto, TextField, useEntry } from '../ui/form/index.ts';

/** Signing in; on the demo with its users to choose from, on an empty start with the first administrator to make. */
export default function SignIn({ state }: { state: SessionState }) {
  return (
    <main className="grid min-h-full place-items-center px-4 py-10">
      <div className="w-full max-w-md">
        <p className="flex items-center gap-2 font-serif text-2xl font-semibold text-hazel">
          <img src="/mark.svg" alt="" className="size-8" /> Tallystick
        </p>
        <h1 className="mt-6 border-t border-rule pt-4 text-xl">
          {state.needsFirstUser
            ? 'Begin: your organization, and you as its administrator'
            : `Sign in to ${state.organization.name}`}
        </h1>
        {state.needsFirstUser ? (
          <FirstUser />
        ) : (
          <Entrance demoUsers={state.demoUsers} onCame={() => void arrived()} autoFocus />
        )}
      </div>
    </main>
  );
}

/** Asks anew who is signed in. */
export const arrived = (): Promise<void> => queries.invalidateQueries({ queryKey: keyOf(getSession) });

/** The way in by e-mail and password, or on the demo by its users. */
export function Entrance(props: {
  demoUsers: SessionState['demoUsers'];
  email?: string;
  autoFocus?: boolean;
  onCame: () => void;
}) {
  const { demoUsers, email = '', autoFocus = false } = props;
  const [asDemo, setAsDemo] = useState('');
  const entry = useEntry({
    schema: signIn.body,
    initial: { email, password: '' },
    send: (body) => call(signIn, { body }),
    then: () => props.onCame(),
  });
  return (
    <>
      <EntryForm entry={entry} className="mt-4">
        <TextField
          entry={entry}
          name="email"
          label="E-mail"
          type="email"
          autoComplete="username"
          autoFocus={autoFocus}
        />
        <TextField entry={entry} name="password" label="Password" type="password" autoComplete="current-password" />
        <Fault>{entry.trouble}</Fault>
        <Button look="main" type="submit" busy={entry.busy}>
          Sign in
        </Button>
      </EntryForm>
      {demoUsers.length > 0 && (
        <section aria-label="Demo users" className="mt-8 border-t border-rule pt-3">
          <p className="text-faded">This is the demo. Come in as:</p>
          <ul className="mt-2 divide-y divide-rule">
            {demoUsers.map((user) => (
              <li key={user.email}>
                <button
                  type="button"
                  aria-busy={asDemo === user.email}
                  className="flex w-full justify-between px-1 py-1.5 text-left hover:bg-hover"
                  onClick={() => {
                    setAsDemo(user.email);
                    entry.put({ email: user.email, password: user.password });
                    entry.go();
                  }}
                >
                  <span className="font-serif">{user.name}</span>
                  <span className="text-faded">{ROLE_NAMES[user.role]}</span>
                </button>
              </li>
            ))}
          </ul>
        </section>
      )}
    </>
  );
}

function FirstUser() {
  const [initial] = useState(() => ({ name: '', email: '', password: '', own: '', ...browserFormats() }));
  const entry = useEntry({
    schema: readInto(
      z
        .object({ ...typedFormats, name: z.string(), email: z.string(), password: z.string(), own: z.string() })
        .transform(({ name, email, password, own, ...formats }) => ({
          ...{ name, email, password },
          organization: { ...formats, name: own },
        })),
      createFirstUser.body,
    ),
    initial,
    at: { 'organization.name': 'own' },
    send: (body) => call(createFirstUser, { body }),
    then: () => void arrived(),
  });
  return (
    <EntryForm entry={entry} className="mt-4">
      <TextField entry={entry} name="own" label="Name of the organization" autoFocus />
      <div className="grid grid-cols-2 gap-3">
        <FormatFields entry={entry} />
      </div>
      <TextField entry={entry} name="name" label="Your name" />
      <TextField entry={entry} name="email" label="E-mail" type="email" />
      <NewPasswordField entry={entry} name="password" label="Password" />
      <Fault>{entry.trouble}</Fault>
      <Button look="main" type="submit" busy={entry.busy}>
        Begin
      </Button>
    </EntryForm>
  );
}
