import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { z } from 'zod';
import { ROLE_NAMES, ROLES } from '@tallystick/contract/endpoint';
import type { Role } from '@tallystick/contract/endpoint';
import type { User } from '@tallystick/contract/session';
import { createToken, createUser, listTokens, listUsers, revokeToken, updateUser } from '@tallystick/contract/session';
import type { ResponseOf } from '@tallystick/contract/endpoint';
import { ask, call } from '../ui/api.ts';
import { Choice } from '../ui/choice/index.tsx';
import { Button, Heading, StateWord, Trouble } from '../ui/controls.tsx';
import {
  ChoiceField,
  EntryForm,
  Fault,
  NewPasswordField,
  oneOf,
  readInto,
  said,
  TextField,
  useEntry,
} from '../ui/form/index.ts';
import { wordsOf } from '../ui/table/columns.ts';
import type { Column } from '../ui/table/columns.ts';
import { ShortTable } from '../ui/table/ShortTable.tsx';
import { useFormats, useHere, useMay } from '../ui/organization.tsx';
import { useWrite } from '../ui/useWrite.ts';

export default function SettingsPage() {
  const mayAdmin = useMay(createUser);
  if (!mayAdmin) return <Trouble error={new Error('Only an administrator sees users and tokens.')} />;
  return (
    <div className="overflow-auto">
      <Heading title="Users and tokens" />
      <Users />
      <Tokens />
    </div>
  );
}

const ROLE_OPTIONS = ROLES.map((role) => ({ value: role, label: ROLE_NAMES[role] }));
const FRESH_USER = { name: '', email: '', role: 'entry' as Role, password: '' };

function Users() {
  const { data, error } = useQuery(ask(listUsers));
  const { user: me } = useHere();
  const change = useWrite(
    ({ id, role, active }: User) => call(updateUser, { params: { id }, body: { role, active } }),
    {
      say: (user) => (user.active ? `${user.name}: ${ROLE_NAMES[user.role]}` : `${user.name} cannot sign in any more`),
    },
  );
  const entry = useEntry({
    schema: createUser.body,
    initial: FRESH_USER,
    send: (body) => call(createUser, { body }),
    say: (user) => `${user.name} can now sign in`,
    then: () => entry.anew(),
  });
  const columns: Column<User>[] = [
    wordsOf('name', 'Name', 220, (user) => user.name),
    wordsOf('email', 'E-mail', 300, (user) => user.email),
    {
      ...{ id: 'role', title: 'Role', width: 210, by: (user) => (user.active ? ROLE_NAMES[user.role] : '') },
      cell: (user) =>
        user.active ? (
          <Choice
            className="h-7"
            aria-label={`Role of ${user.name}`}
            value={user.role}
            onChange={(role) => change.mutate({ ...user, role: role as Role })}
            options={ROLE_OPTIONS}
          />
        ) : (
          <StateWord tone="plain">inactive</StateWord>
        ),
    },
    {
      ...{ id: 'acts', title: '', width: 140 },
      cell: (user) =>
        user.id === me.id ? (
          <span className="text-faded">you</span>
        ) : (
          <Button
            look="quiet"
            className="h-7"
            aria-label={`${user.active ? 'Deactivate' : 'Activate'} ${user.name}`}
            busy={change.isPending}
            onClick={() => change.mutate({ ...user, active: !user.active })}
          >
            {user.active ? 'Deactivate' : 'Activate'}
          </Button>
        ),
    },
  ];
  if (error) return <Trouble error={error} />;
  return (
    <section aria-labelledby="users">
      <h2 id="users" className="px-5 pt-4 pb-1 text-lg">
        Users
      </h2>
      <ShortTable name="users" label="Users" columns={columns} rows={data?.items ?? []} />
      <EntryForm
        entry={entry}
        className="grid max-w-4xl grid-cols-[1fr_1.3fr_1fr_1fr_auto] items-start gap-3 space-y-0 px-5 py-3"
      >
        <TextField entry={entry} name="name" label="Name" />
        <TextField entry={entry} name="email" label="E-mail" type="email" />
        <ChoiceField entry={entry} name="role" label="Role" options={ROLE_OPTIONS} />
        <NewPasswordField entry={entry} name="password" label="First password" />
        <Button type="submit" className="mt-5" busy={entry.busy}>
          Add user
        </Button>
        <Fault>{entry.trouble}</Fault>
      </EntryForm>
    </section>
  );
}

type Token = ResponseOf<typeof listTokens>['items'][number];

function Tokens() {
  const { moment } = useFormats();
  const { data, error } = useQuery(ask(listTokens));
  const [secret, setSecret] = useState<string | null>(null);
  const entry = useEntry({
    schema: readInto(z.object({ name: said('Say what it is for.'), role: oneOf<Role>() }), createToken.body),
    initial: { name: '', role: 'read' as Role },
    send: (body) => call(createToken, { body }),
    then: (made) => {
      setSecret(made.secret);
      entry.anew();
    },
  });
  const revoke = useWrite((id: number) => call(revokeToken, { params: { id } }));
  const columns: Column<Token>[] = [
    wordsOf('name', 'Name', 240, (token) => token.name),
    wordsOf('role', 'Role', 190, (one) => ROLE_NAMES[one.role]),
    { id: 'made', title: 'Made', width: 190, by: (one) => one.createdAt, cell: (one) => moment(one.createdAt) },
    {
      ...{ id: 'used', title: 'Last used', width: 190, by: (token) => token.lastUsedAt },
      cell: (token) => (token.lastUsedAt ? moment(token.lastUsedAt) : 'never'),
    },
    {
      ...{ id: 'acts', title: '', width: 120 },
      cell: (token) =>
        token.revoked ? (
          <StateWord tone="wrong">revoked</StateWord>
        ) : (
          <Button
            look="quiet"
            className="h-7"
            aria-label={`Revoke ${token.name}`}
            onClick={() => revoke.mutate(token.id)}
          >
            Revoke
          </Button>
        ),
    },
  ];
  if (error) return <Trouble error={error} />;
  return (
    <section aria-labelledby="tokens">
      <h2 id="tokens" className="px-5 pt-4 pb-1 text-lg">
        API tokens
      </h2>
      <ShortTable name="tokens" label="API tokens" columns={columns} rows={data?.items ?? []} />
      <EntryForm entry={entry} className="flex max-w-2xl items-start gap-3 space-y-0 px-5 py-3">
        <TextField entry={entry} name="name" label="What the token is for" className="flex-1" />
        <ChoiceField entry={entry} name="role" label="Role" options={ROLE_OPTIONS} />
        <Button type="submit" className="mt-5" busy={entry.busy}>
          Make token
        </Button>
        <Fault>{entry.trouble}</Fault>
      </EntryForm>
      {secret && (
        <p className="mx-5 mb-4 rounded border border-rule bg-straw px-3 py-2 text-straw-ink" role="status">
          Copy it now, it is shown this once: <code className="select-all">{secret}</code>
        </p>
      )}
    </section>
  );
}
