import { useQuery } from '@tanstack/react-query';
import { changePassword, endOtherSessions, endSession, listSessions } from '@tallystick/contract/session';
import type { ResponseOf } from '@tallystick/contract/endpoint';
import { ask, call } from '../ui/api.ts';
import { Button, Heading, StateWord, Trouble } from '../ui/controls.tsx';
import { EntryForm, Fault, NewPasswordField, TextField, useEntry } from '../ui/form/index.ts';
import { wordsOf } from '../ui/table/columns.ts';
import type { Column } from '../ui/table/columns.ts';
import { ShortTable } from '../ui/table/ShortTable.tsx';
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

type SignedIn = ResponseOf<typeof listSessions>['items'][number];

function Sessions() {
  const { moment } = useFormats();
  const { data, error } = useQuery(ask(listSessions));
  const end = useWrite((id: number) => call(endSession, { params: { id } }), { say: () => 'Signed out there' });
  const others = useWrite(() => call(endOtherSessions), { say: () => 'Signed out everywhere else' });
  const columns: Column<SignedIn>[] = [
    {
      ...{ id: 'browser', title: 'Browser', width: 240, by: (one) => browserName(one.browser) },
      cell: (one) => <span title={one.browser}>{browserName(one.browser)}</span>,
    },
    wordsOf('from', 'From', 180, (one) => one.address),
    { id: 'since', title: 'Since', width: 200, by: (one) => one.createdAt, cell: (one) => moment(one.createdAt) },
    { id: 'seen', title: 'Last used', width: 200, by: (one) => one.seenAt, cell: (one) => moment(one.seenAt) },
    {
      ...{ id: 'acts', title: '', width: 150 },
      cell: (one) =>
        one.current ? (
          <StateWord tone="settled">this one</StateWord>
        ) : (
          <Button look="quiet" className="h-7" onClick={() => end.mutate(one.id)}>
            Sign out there
          </Button>
        ),
    },
  ];
  if (error && !data) return <Trouble error={error} />;
  const items = data?.items ?? [];
  return (
    <section aria-labelledby="sessions">
      <h2 id="sessions" className="px-5 pt-4 pb-1 text-lg">
        Where you are signed in
      </h2>
      <ShortTable name="sessions" label="Sessions" columns={columns} rows={items} />
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
