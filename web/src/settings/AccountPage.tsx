import { useQuery } from '@tanstack/react-query';
import { changePassword, endOtherSessions, endSession, listSessions } from '@tallystick/contract/session';
import { ask, call } from '../ui/api.ts';
import { Button, Heading, StateWord, Trouble } from '../ui/controls.tsx';
import { EntryForm, Fault, NewPasswordField, TextField, useEntry } from '../ui/form/index.ts';
import { ListTable } from '../ui/ListTable.tsx';
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
          <Button className="h-7" busy={others.isPending} onClick={() => others.mutate(undefined)}>
            Sign out everywhere else
          </Button>
        )}
      </p>
    </section>
  );
}

function PasswordForm() {
  const entry = useEntry({
    schema: changePassword.body,
    initial: { old: '', fresh: '' },
    send: (body) => call(changePassword, { body }),
    say: () => 'Your password is changed; you are signed out everywhere else',
    then: () => entry.anew(),
  });
  return (
    <section aria-labelledby="password">
      <h2 id="password" className="px-5 pt-4 pb-1 text-lg">
        Password
      </h2>
      <EntryForm
        entry={entry}
        className="grid max-w-3xl grid-cols-[1fr_1fr_auto] items-start gap-3 space-y-0 px-5 py-2"
      >
        <TextField
          entry={entry}
          name="old"
          label="The one you have now"
          type="password"
          autoComplete="current-password"
        />
        <NewPasswordField entry={entry} name="fresh" label="The new one" />
        <Button type="submit" className="mt-5" busy={entry.busy}>
          Change password
        </Button>
        <Fault>{entry.trouble}</Fault>
      </EntryForm>
    </section>
  );
}
