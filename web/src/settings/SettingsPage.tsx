import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { z } from 'zod';
import { ROLE_NAMES, ROLES } from '@tallystick/contract/endpoint';
import type { Role } from '@tallystick/contract/endpoint';
import type { User } from '@tallystick/contract/session';
import { createToken, createUser, listTokens, listUsers, revokeToken, updateUser } from '@tallystick/contract/session';
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
import { ListTable } from '../ui/ListTable.tsx';
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
  if (error) return <Trouble error={error} />;
  return (
    <section aria-labelledby="users">
      <h2 id="users" className="px-5 pt-4 pb-1 text-lg">
        Users
      </h2>
      <ListTable
        label="Users"
        headings={['Name', 'E-mail', 'Role', '']}
        rows={(data?.items ?? []).map((user) => ({
          id: user.id,
          cells: [
            user.name,
            user.email,
            user.active ? (
              <Choice
                aria-label={`Role of ${user.name}`}
                value={user.role}
                onChange={(role) => change.mutate({ ...user, role: role as Role })}
                options={ROLE_OPTIONS}
              />
            ) : (
              <StateWord tone="plain">inactive</StateWord>
            ),
            user.id === me.id ? (
              <span className="text-faded">you</span>
            ) : (
              <Button
                look="quiet"
                className="h-7"
                busy={change.isPending}
                onClick={() => change.mutate({ ...user, active: !user.active })}
              >
                {user.active ? 'Deactivate' : 'Activate'}
              </Button>
            ),
          ],
        }))}
      />
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
  if (error) return <Trouble error={error} />;
  return (
    <section aria-labelledby="tokens">
      <h2 id="tokens" className="px-5 pt-4 pb-1 text-lg">
        API tokens
      </h2>
      <ListTable
        label="API tokens"
        headings={['Name', 'Role', 'Made', 'Last used', '']}
        rows={(data?.items ?? []).map((token) => ({
          id: token.id,
          cells: [
            token.name,
            ROLE_NAMES[token.role],
            moment(token.createdAt),
            token.lastUsedAt ? moment(token.lastUsedAt) : 'never',
            token.revoked ? (
              <StateWord tone="wrong">revoked</StateWord>
            ) : (
              <Button look="quiet" onClick={() => revoke.mutate(token.id)}>
                Revoke
              </Button>
            ),
          ],
        }))}
      />
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
