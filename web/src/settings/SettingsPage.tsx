import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { FormEvent } from 'react';
import { toast } from 'sonner';
import { ROLE_NAMES, ROLES } from '@tallystick/contract/endpoint';
import type { Role } from '@tallystick/contract/endpoint';
import type { User } from '@tallystick/contract/session';
import { createToken, createUser, listTokens, listUsers, revokeToken, updateUser } from '@tallystick/contract/session';
import { ask, call, messageOf, Refused } from '../ui/api.ts';
import { Choice } from '../ui/choice/index.tsx';
import { Button, Field, Heading, Input, StateWord, Trouble } from '../ui/controls.tsx';
import { ListTable } from '../ui/ListTable.tsx';
import { NewPassword } from '../ui/NewPassword.tsx';
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

function RoleSelect(props: { id?: string; label?: string; value: Role; onChange: (role: Role) => void }) {
  return (
    <Choice
      id={props.id}
      aria-label={props.label}
      value={props.value}
      onChange={(picked) => props.onChange(picked as Role)}
      options={ROLES.map((role) => ({ value: role, label: ROLE_NAMES[role] }))}
    />
  );
}

const FRESH_USER = { name: '', email: '', role: 'entry' as Role, password: '' };

function Users() {
  const { data, error } = useQuery(ask(listUsers));
  const { user: me } = useHere();
  const [draft, setDraft] = useState(FRESH_USER);
  const change = useWrite(
    ({ id, role, active }: User) => call(updateUser, { params: { id }, body: { role, active } }),
    {
      say: (user) => (user.active ? `${user.name}: ${ROLE_NAMES[user.role]}` : `${user.name} cannot sign in any more`),
    },
  );
  const make = useMutation({
    mutationFn: () => call(createUser, { body: draft }),
    onSuccess: (user) => {
      toast.success(`${user.name} can now sign in`);
      setDraft(FRESH_USER);
    },
  });
  const fields = make.error instanceof Refused ? make.error.fields : {};
  const submit = (event: FormEvent): void => {
    event.preventDefault();
    make.mutate();
  };
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
              <RoleSelect
                label={`Role of ${user.name}`}
                value={user.role}
                onChange={(role) => change.mutate({ ...user, role })}
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
                disabled={change.isPending}
                onClick={() => change.mutate({ ...user, active: !user.active })}
              >
                {user.active ? 'Deactivate' : 'Activate'}
              </Button>
            ),
          ],
        }))}
      />
      <form
        onSubmit={submit}
        className="grid max-w-4xl grid-cols-[1fr_1.3fr_1fr_1fr_auto] items-start gap-3 px-5 py-3"
        noValidate
      >
        <Field label="Name" error={fields['name']}>
          {(attributes) => (
            <Input
              {...attributes}
              value={draft.name}
              onChange={(event) => setDraft({ ...draft, name: event.target.value })}
            />
          )}
        </Field>
        <Field label="E-mail" error={fields['email']}>
          {(attributes) => (
            <Input
              {...attributes}
              type="email"
              value={draft.email}
              onChange={(event) => setDraft({ ...draft, email: event.target.value })}
            />
          )}
        </Field>
        <Field label="Role">
          {({ id }) => <RoleSelect id={id} value={draft.role} onChange={(role) => setDraft({ ...draft, role })} />}
        </Field>
        <NewPassword
          label="First password"
          error={fields['password']}
          value={draft.password}
          onChange={(password) => setDraft({ ...draft, password })}
        />
        <Button type="submit" className="mt-5" disabled={make.isPending}>
          Add user
        </Button>
      </form>
    </section>
  );
}

function Tokens() {
  const { moment } = useFormats();
  const { data, error } = useQuery(ask(listTokens));
  const [name, setName] = useState('');
  const [role, setRole] = useState<Role>('read');
  const [secret, setSecret] = useState<string | null>(null);
  const make = useMutation({
    mutationFn: () => call(createToken, { body: { name, role } }),
    onSuccess: (made) => {
      setSecret(made.secret);
      setName('');
    },
    onError: (failed) => toast.error(messageOf(failed)),
  });
  const revoke = useMutation({
    mutationFn: (id: number) => call(revokeToken, { params: { id } }),
    onError: (failed) => toast.error(messageOf(failed)),
  });
  const submit = (event: FormEvent): void => {
    event.preventDefault();
    make.mutate();
  };
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
      <form onSubmit={submit} className="flex max-w-2xl items-end gap-3 px-5 py-3">
        <Field label="What the token is for" className="flex-1">
          {(attributes) => <Input {...attributes} value={name} onChange={(event) => setName(event.target.value)} />}
        </Field>
        <Field label="Role">{({ id }) => <RoleSelect id={id} value={role} onChange={setRole} />}</Field>
        <Button type="submit" disabled={name.trim() === '' || make.isPending}>
          Make token
        </Button>
      </form>
      {secret && (
        <p className="mx-5 mb-4 rounded border border-rule bg-straw px-3 py-2 text-straw-ink" role="status">
          Copy it now, it is shown this once: <code className="select-all">{secret}</code>
        </p>
      )}
    </section>
  );
}
