import { Plus, Search, UserRound } from 'lucide-react';
import { useState } from 'react';
import { NavLink, useNavigate } from 'react-router';
import { signOut } from '@tallystick/contract/session';
import { ROLE_NAMES } from '@tallystick/contract/endpoint';
import { leaveAll } from '../session/index.ts';
import { call } from '../ui/api.ts';
import { Button, IconButton, Key } from '../ui/controls.tsx';
import { useKeys } from '../ui/keys.tsx';
import { useHere } from '../ui/organization.tsx';
import { Menu } from '../ui/overlays.tsx';
import { ADDS, AREA_KEYS, offered, PLACES } from './areas.ts';
import { FindDialog } from './FindDialog.tsx';
import { KeysDialog } from './KeysDialog.tsx';
import { applyTheme, storedTheme } from './theme.ts';

export function Strip() {
  const navigate = useNavigate();
  const { user, mailInbox, cardProcessor } = useHere();
  const [finding, setFinding] = useState(false);
  const [keys, setKeys] = useState(false);
  const [adding, setAdding] = useState(false);
  const go = (to: string | (() => void)): void => (typeof to === 'string' ? void navigate(to) : to());
  const add = offered(user.role, ADDS).map(({ label, keys: by, go: to }) => ({
    ...{ label, onSelect: () => go(to) },
    ...(by ? { keys: by } : {}),
  }));
  const own = offered(user.role, AREA_KEYS).flatMap(({ key, run }) => (run ? [[key, run] as const] : []));
  useKeys({
    '/': () => setFinding(true),
    'Ctrl+k': () => setFinding(true),
    '?': () => setKeys(true),
    ...(add.length > 0 ? { a: () => setAdding(true) } : {}),
    ...Object.fromEntries(own),
  });
  const leave = async (): Promise<void> => {
    await call(signOut);
    leaveAll();
  };
  const themes = { light: 'dark', dark: 'system', system: 'light' } as const;
  const [theme, setTheme] = useState(storedTheme());
  return (
    <header className="flex h-11 print:hidden shrink-0 items-center gap-1 border-b border-rule bg-sheet px-3">
      <NavLink to="/" className="mr-2 flex items-center gap-2 font-serif text-[17px] font-semibold text-hazel">
        <img src="/mark.svg" alt="" className="size-5" />
        Tallystick
      </NavLink>
      <nav aria-label="Areas" className="hidden h-full lg:flex">
        {PLACES.filter((place) => place.in === 'strip').map(({ path, name }) => (
          <NavLink
            key={path}
            to={path}
            end={path === '/'}
            className={({ isActive }) =>
              `flex h-full items-center border-b-2 px-2.5 ${isActive ? 'border-hazel text-ink' : 'border-transparent text-faded hover:text-ink'}`
            }
          >
            {name}
          </NavLink>
        ))}
      </nav>
      {/* Where the areas have no room side by side, on a small or magnified screen, they are a menu. */}
      <nav aria-label="Areas" className="lg:hidden">
        <Menu
          label="Areas"
          trigger={<Button look="quiet">Areas</Button>}
          items={PLACES.filter((place) => place.in === 'strip').map(({ path, name }) => ({
            label: name,
            onSelect: () => go(path),
          }))}
        />
      </nav>
      <div className="ml-auto flex items-center gap-2">
        <button
          type="button"
          aria-label="Find anything"
          onClick={() => setFinding(true)}
          className="flex h-8 items-center gap-2 rounded border border-rule bg-paper px-2 text-faded hover:text-ink xl:w-56"
        >
          <Search size={14} /> <span className="hidden md:inline">Find anything</span>
          <span className="ml-auto hidden md:inline">
            <Key>/</Key>
          </span>
        </button>
        {add.length > 0 && <AddMenu items={add} open={adding} onOpen={setAdding} />}
        <Menu
          label={user.name}
          trigger={
            <IconButton label={`Signed in as ${user.name}`}>
              <UserRound size={17} />
            </IconButton>
          }
          items={[
            { label: `${user.name}, ${ROLE_NAMES[user.role]}`, onSelect: () => undefined, disabled: true },
            ...offered(user.role, PLACES)
              .filter((place) => place.in === 'menu')
              .map(({ name, path }) => ({ label: name, onSelect: () => go(path) })),
            ...(mailInbox
              ? [{ label: 'Open the mail room', onSelect: () => void window.open(mailInbox, '_blank') }]
              : []),
            ...(cardProcessor
              ? [{ label: 'Open the till', onSelect: () => void window.open(cardProcessor, '_blank') }]
              : []),
            { label: 'API document', onSelect: () => void window.open('/api/v1/docs', '_blank') },
            {
              label: `Colours: ${theme}`,
              onSelect: () => {
                applyTheme(themes[theme]);
                setTheme(themes[theme]);
              },
            },
            { label: 'All keys', keys: '?', onSelect: () => setKeys(true) },
            { label: 'Sign out', onSelect: () => void leave() },
          ]}
        />
      </div>
      <FindDialog open={finding} onClose={() => setFinding(false)} />
      <KeysDialog open={keys} onClose={() => setKeys(false)} />
    </header>
  );
}

/** The Add button; the key `a` opens it too. */
function AddMenu(props: {
  items: { label: string; keys?: string; onSelect: () => void }[];
  open: boolean;
  onOpen: (open: boolean) => void;
}) {
  return (
    <Menu
      label="Add"
      open={props.open}
      onOpen={props.onOpen}
      trigger={
        <Button look="main">
          <Plus size={15} /> Add
        </Button>
      }
      items={props.items}
    />
  );
}
