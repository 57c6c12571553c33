import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import type { FormEvent } from 'react';
import { createFirstUser, getSession, signIn } from '@tallystick/contract/session';
import type { SessionState } from '@tallystick/contract/session';
import { ROLE_NAMES } from '@tallystick/contract/endpoint';
import { call, keyOf, queries, Refused } from '../ui/api.ts';
import { Button, Field, Input } from '../ui/controls.tsx';
import { NewPassword } from '../ui/NewPassword.tsx';

/** Signing in; on the demo with its users to choose from, on an empty start with the first administrator to make. */
export function SignIn({ state }: { state: SessionState }) {
  return (
    <main className="grid min-h-full place-items-center px-4 py-10">
      <div className="w-full max-w-md">
        <p className="flex items-center gap-2 font-serif text-2xl font-semibold text-hazel">
          <img src="/mark.svg" alt="" className="size-8" /> Tallystick
        </p>
        <h1 className="mt-6 border-t border-rule pt-4 text-xl">
          {state.needsFirstUser ? 'Make the first administrator' : `Sign in to ${state.organization.name}`}
        </h1>
        {state.needsFirstUser ? <FirstUser /> : <Entrance demoUsers={state.demoUsers} />}
      </div>
    </main>
  );
}

const arrived = (): Promise<void> => queries.invalidateQueries({ queryKey: keyOf(getSession) });

function Entrance({ demoUsers }: { demoUsers: SessionState['demoUsers'] }) {
  const [email, setEmail] = useState('');
  const [password, setPassword] = useState('');
  const enter = useMutation({
    mutationFn: (body: { email: string; password: string }) => call(signIn, { body }),
    onSuccess: arrived,
  });
  const submit = (event: FormEvent): void => {
    event.preventDefault();
    enter.mutate({ email, password });
  };
  return (
    <>
      <form onSubmit={submit} className="mt-4 space-y-3">
        <Field label="E-mail">
          {(attributes) => (
            <Input
              {...attributes}
              type="email"
              autoComplete="username"
              autoFocus
              required
              value={email}
              onChange={(event) => setEmail(event.target.value)}
            />
          )}
        </Field>
        <Field label="Password">
          {(attributes) => (
            <Input
              {...attributes}
              type="password"
              autoComplete="current-password"
              required
              value={password}
              onChange={(event) => setPassword(event.target.value)}
            />
          )}
        </Field>
        {enter.isError && (
          <p role="alert" className="text-madder">
            ▲ {enter.error.message}
          </p>
        )}
        <Button look="main" type="submit" disabled={enter.isPending}>
          Sign in
        </Button>
      </form>
      {demoUsers.length > 0 && (
        <section aria-label="Demo users" className="mt-8 border-t border-rule pt-3">
          <p className="text-faded">This is the demo. Come in as:</p>
          <ul className="mt-2 divide-y divide-rule">
            {demoUsers.map((user) => (
              <li key={user.email}>
                <button
                  type="button"
                  className="flex w-full justify-between px-1 py-1.5 text-left hover:bg-hover"
                  onClick={() => enter.mutate({ email: user.email, password: user.password })}
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
  const [draft, setDraft] = useState({ name: '', email: '', password: '' });
  const make = useMutation({ mutationFn: () => call(createFirstUser, { body: draft }), onSuccess: arrived });
  const fields = make.error instanceof Refused ? make.error.fields : {};
  const set = (name: keyof typeof draft) => (event: { target: { value: string } }) =>
    setDraft((old) => ({ ...old, [name]: event.target.value }));
  const submit = (event: FormEvent): void => {
    event.preventDefault();
    make.mutate();
  };
  return (
    <form onSubmit={submit} className="mt-4 space-y-3">
      <Field label="Your name" error={fields['name']}>
        {(attributes) => <Input {...attributes} autoFocus required value={draft.name} onChange={set('name')} />}
      </Field>
      <Field label="E-mail" error={fields['email']}>
        {(attributes) => <Input {...attributes} type="email" required value={draft.email} onChange={set('email')} />}
      </Field>
      <NewPassword
        label="Password"
        error={fields['password']}
        value={draft.password}
        onChange={(password) => setDraft((old) => ({ ...old, password }))}
      />
      {make.isError && Object.keys(fields).length === 0 && (
        <p role="alert" className="text-madder">
          ▲ {make.error.message}
        </p>
      )}
      <Button look="main" type="submit" disabled={make.isPending}>
        Make administrator
      </Button>
    </form>
  );
}
