import { useState } from 'react';
import type { FormEvent } from 'react';
import { useMutation, useQuery } from '@tanstack/react-query';
import { toast } from 'sonner';
import { changePassword, endOtherSessions, endSession, listSessions } from '@tallystick/contract/session';
import { ask, call, Refused } from '../ui/api.ts';
import { Button, Field, Heading, Input, StateWord, Trouble } from '../ui/controls.tsx';
import { ListTable } from '../ui/ListTable.tsx';
import { NewPassword } from '../ui/NewPassword.tsx';
import { useFormats, useHere } from '../ui/organization.tsx';
import { useWrite } from '../ui/useWrite.ts';
import { browserName } from './browserName.ts';

/** One's own account: where one is signed in, and the password. */
export default function AccountPage() {
  const { user } = useHere();
  return (
    <div className="overflow-auto">
      <Heading title="Your account" facts={`${user.name}, ${user.email}`} />
      <Sessions />
      <PasswordForm />
    </div>
  );
}

function Sessions() {
  const { moment } = useFormats();
  const { data, error } = useQuery(ask(listSessions));
  const end = useWrite((id: number) => call(endSession, { params: { id } }), { say: () => 'Signed out there' });
  const others = useWrite(() => call(endOtherSessions), { say: () => 'Signed out everywhere else' });
  if (error && !data) return <Trouble error={error} />;
  const items = data?.items ?? [];
  return (
    <section aria-labelledby="sessions">
      <h2 id="sessions" className="px-5 pt-4 pb-1 text-lg">
        Where you are signed in
      </h2>
      <ListTable
        label="Sessions"
        headings={['Browser', 'From', 'Since', 'Last used', '']}
        rows={items.map((one) => ({
          id: one.id,
          cells: [
            <span title={one.browser}>{browserName(one.browser)}</span>,
            one.address,
            moment(one.createdAt),
            moment(one.seenAt),
            one.current ? (
              <StateWord tone="settled">this one</StateWord>
            ) : (
              <Button look="quiet" className="h-7" onClick={() => end.mutate(one.id)}>
                Sign out there
              </Button>
            ),
          ],
        }))}
      />
      <p className="flex items-center gap-3 px-5 py-2 text-faded">
        A session in which nothing is done for twelve hours ends by itself.
        {items.length > 1 && (
          <Button className="h-7" disabled={others.isPending} onClick={() => others.mutate(undefined)}>
            Sign out everywhere else
          </Button>
        )}
      </p>
    </section>
  );
}

function PasswordForm() {
  const [old, setOld] = useState('');
  const [fresh, setFresh] = useState('');
  const save = useMutation({
    mutationFn: () => call(changePassword, { body: { old, fresh } }),
    onSuccess: () => {
      toast.success('Your password is changed; you are signed out everywhere else');
      setOld('');
      setFresh('');
    },
  });
  const fields = save.error instanceof Refused ? save.error.fields : {};
  const submit = (event: FormEvent): void => {
    event.preventDefault();
    save.mutate();
  };
  return (
    <section aria-labelledby="password">
      <h2 id="password" className="px-5 pt-4 pb-1 text-lg">
        Password
      </h2>
      <form
        onSubmit={submit}
        className="grid max-w-3xl grid-cols-[1fr_1fr_auto] items-start gap-3 px-5 py-2"
        noValidate
      >
        <Field label="The one you have now" error={fields['old']}>
          {(attributes) => (
            <Input
              {...attributes}
              type="password"
              autoComplete="current-password"
              value={old}
              onChange={(event) => setOld(event.target.value)}
            />
          )}
        </Field>
        <NewPassword label="The new one" error={fields['fresh']} value={fresh} onChange={setFresh} />
        <Button type="submit" className="mt-5" disabled={save.isPending || old === '' || fresh === ''}>
          Change password
        </Button>
        {save.error && Object.keys(fields).length === 0 && (
          <p role="alert" className="col-span-3 text-madder">
            ▲ {save.error.message}
          </p>
        )}
      </form>
    </section>
  );
}
