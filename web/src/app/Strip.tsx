import { Plus, Search, UserRound } from 'lucide-react';
import { useState } from 'react';
import { NavLink, useNavigate } from 'react-router';
import { recordGift } from '@tallystick/contract/gifts';
import { signOut } from '@tallystick/contract/session';
import { ROLE_NAMES } from '@tallystick/contract/endpoint';
import { openGiftDialog } from '../gifts/index.ts';
import { call, queries } from '../ui/api.ts';
import { Button, IconButton, Key } from '../ui/controls.tsx';
import { useKeys } from '../ui/keys.tsx';
import { useHere, useMay } from '../ui/organization.tsx';
import { Menu } from '../ui/overlays.tsx';
import { FindDialog } from './FindDialog.tsx';
import { KeysDialog } from './KeysDialog.tsx';
import { applyTheme, storedTheme } from './theme.ts';

const AREAS = [
  ['/', 'Today'],
  ['/supporters', 'Supporters'],
  ['/gifts', 'Gifts'],
  ['/segments', 'Segments'],
  ['/outreach', 'Outreach'],
  ['/thanks', 'Thanks'],
  ['/intake', 'Intake'],
] as const;

export function Strip() {
  const navigate = useNavigate();
  const { user, mailRoom, till } = useHere();
  const mayEnter = useMay(recordGift);
  const [finding, setFinding] = useState(false);
  const [keys, setKeys] = useState(false);
  const [adding, setAdding] = useState(false);
  const add = [
    { label: 'Gift', keys: 'g', onSelect: () => openGiftDialog(null) },
    { label: 'Supporter', onSelect: () => void navigate('/supporters?add=1') },
    { label: 'Pledge, grant or match', onSelect: () => void navigate('/gifts/pledges?add=1') },
    { label: 'Recurring gift', onSelect: () => void navigate('/gifts/recurring?add=1') },
    { label: 'Sheet of gifts', onSelect: () => void navigate('/gifts/sheets?new=1') },
    { label: 'Segment', onSelect: () => void navigate('/segments/new') },
    { label: 'E-mail to a segment', onSelect: () => void navigate('/outreach/new') },
    { label: 'File of people and gifts', onSelect: () => void navigate('/intake') },
  ];
  useKeys({
    '/': () => setFinding(true),
    'Ctrl+k': () => setFinding(true),
    '?': () => setKeys(true),
    ...(mayEnter ? { a: () => setAdding(true), g: () => openGiftDialog(null) } : {}),
  });
  const leave = async (): Promise<void> => {
    await call(signOut);
    queries.clear();
    location.assign('/');
  };
  const themes = { light: 'dark', dark: 'system', system: 'light' } as const;
  const [theme, setTheme] = useState(storedTheme());
  return (
    <header className="flex h-11 shrink-0 items-center gap-1 border-b border-rule bg-sheet px-3">
      <NavLink to="/" className="mr-2 flex items-center gap-2 font-serif text-[17px] font-semibold text-hazel">
        <img src="/mark.svg" alt="" className="size-5" />
        Tallystick
      </NavLink>
      <nav aria-label="Areas" className="flex h-full">
        {AREAS.map(([path, name]) => (
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
      <div className="ml-auto flex items-center gap-2">
        <button
          type="button"
          onClick={() => setFinding(true)}
          className="flex h-8 w-56 items-center gap-2 rounded border border-rule bg-paper px-2 text-faded hover:text-ink"
        >
          <Search size={14} /> Find anything{' '}
          <span className="ml-auto">
            <Key>/</Key>
          </span>
        </button>
        {mayEnter && <AddMenu items={add} open={adding} onOpen={setAdding} />}
        <Menu
          label={user.name}
          trigger={
            <IconButton label={`Signed in as ${user.name}`}>
              <UserRound size={17} />
            </IconButton>
          }
          items={[
            { label: `${user.name}, ${ROLE_NAMES[user.role]}`, onSelect: () => undefined, disabled: true },
            { label: 'All changes', onSelect: () => void navigate('/changes') },
            { label: 'Tags and groups', onSelect: () => void navigate('/supporters/tags') },
            { label: 'Funds and appeals', onSelect: () => void navigate('/gifts/places') },
            { label: 'Fields', onSelect: () => void navigate('/settings/fields') },
            { label: 'How people are addressed', onSelect: () => void navigate('/settings/addressing') },
            ...(user.role === 'admin'
              ? [{ label: 'Users and tokens', onSelect: () => void navigate('/settings') }]
              : []),
            ...(mailRoom
              ? [{ label: 'Open the mail room', onSelect: () => void window.open(mailRoom, '_blank') }]
              : []),
            ...(till ? [{ label: 'Open the till', onSelect: () => void window.open(till, '_blank') }] : []),
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
