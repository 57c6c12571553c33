import { Ellipsis, Pencil, Undo2 } from 'lucide-react';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { recordGift } from '@tallystick/contract/gifts';
import { updateSupporter } from '@tallystick/contract/supporters';
import { actOnSupporters, getCard } from '@tallystick/contract/acts';
import type { Supporter } from '@tallystick/contract/supporters';
import { isBad } from '@tallystick/core/contact';
import { WISHES } from '@tallystick/core/wishes';
import { counted } from '@tallystick/core/words';
import { openGiftDialog, useInSight } from '../gifts/index.ts';
import { call, callFile } from '../ui/api.ts';
import { Button, IconButton, StateWord, Trouble } from '../ui/controls.tsx';
import { useKeys } from '../ui/keys.tsx';
import { useFormats, useHere, useMay } from '../ui/organization.tsx';
import { Menu } from '../ui/overlays.tsx';
import { TallyStick } from '../ui/charts/TallyStick.tsx';
import { useListUrl } from '../ui/useListUrl.ts';
import { useWidth } from '../ui/useWidth.ts';
import { useWrite } from '../ui/useWrite.ts';
import { useTitle } from '../ui/useTitle.ts';
import { download } from './ExportDialog.tsx';
import { useSupporter } from './api.ts';
import { Beside } from './Beside.tsx';
import { NotesSection } from './NotesSection.tsx';
import { Contact, Correspondence, GivenGifts } from './RecordSections.tsx';
import { RecordHistory } from './RecordHistory.tsx';
import { RefusalWords } from './RefusalWords.tsx';
import { RelationsSection } from './RelationsSection.tsx';
import { SupporterDialog } from './SupporterForm.tsx';
import type { Begin } from './SupporterForm.tsx';
import { TagsAndFields } from './TagsAndFields.tsx';
import type { ReactNode } from 'react';
import { TabPanel, Tabs } from '../ui/tabs.tsx';
import { RecordTitle } from '../ui/RecordTitle.tsx';

const SECTIONS = {
  giving: 'Giving',
  contact: 'Contact',
  relations: 'Relations',
  correspondence: 'Correspondence',
  notes: 'Notes and tasks',
  tags: 'Tags and fields',
  history: 'History',
};
type Section = keyof typeof SECTIONS;

/** A supporter's record, the same in the peek and on its own page; the open section is part of the address. */
export function SupporterRecord({ id, full = false }: { id: number; full?: boolean }) {
  const { data: supporter, error } = useSupporter(id);
  const url = useListUrl();
  const [editing, setEditing] = useState<Begin | null>(null);
  const mayEdit = useMay(updateSupporter);
  useKeys(mayEdit ? { e: () => setEditing('name'), t: () => setEditing('tags') } : {});
  if (error && !supporter) return <Trouble error={error} />;
  if (!supporter) return <p className="p-5 text-faded">Opening …</p>;
  const asked = url.get('section');
  const section: Section = asked in SECTIONS ? (asked as Section) : 'giving';
  const sections: Record<Section, ReactNode> = {
    giving: <GivenGifts supporter={supporter} />,
    contact: <Contact supporter={supporter} />,
    relations: <RelationsSection supporter={supporter} />,
    correspondence: <Correspondence id={id} />,
    notes: <NotesSection supporter={supporter} />,
    tags: <TagsAndFields supporter={supporter} onEdit={() => setEditing('tags')} />,
    history: <RecordHistory id={id} />,
  };
  return (
    <article aria-label={supporter.name} className="@container">
      <Head supporter={supporter} full={full} onEdit={() => setEditing('name')} />
      <Tabs
        label="Sections of the record"
        tabs={SECTIONS}
        value={section}
        onChange={(next) => url.set({ section: next })}
        tight={!full}
      >
        <div className={full ? '@5xl:grid @5xl:grid-cols-[minmax(0,1fr)_25rem]' : undefined}>
          {(Object.keys(SECTIONS) as Section[]).map((name) => (
            <TabPanel key={name} value={name} className="@container min-w-0 px-5 py-3">
              {sections[name]}
            </TabPanel>
          ))}
          {full && <Beside supporter={supporter} open={section} />}
        </div>
      </Tabs>
      {editing && (
        <SupporterDialog
          open
          supporter={supporter}
          begin={editing}
          onClose={() => setEditing(null)}
          onDone={() => setEditing(null)}
        />
      )}
    </article>
  );
}

function Head({ supporter, full, onEdit }: { supporter: Supporter; full: boolean; onEdit: () => void }) {
  const [box, width] = useWidth();
  const navigate = useNavigate();
  const mayEdit = useMay(updateSupporter);
  const mayEnter = useMay(recordGift);
  const { addresseeFormal, salutationInformal } = supporter.addressing;
  const reach = [supporter.reach.email, supporter.reach.phone, supporter.reach.lines.join(', ')].filter(Boolean);
  useTitle(full ? supporter.name : undefined);
  useInSight(supporter);
  return (
    <header className="px-5 pt-3 pb-1 wrap-anywhere">
      <div className="flex items-start gap-x-2">
        <RecordTitle className={`min-w-0 flex-1 leading-tight ${full ? 'text-[26px]' : 'text-xl'}`}>
          {supporter.name}
        </RecordTitle>
        {mayEnter && !supporter.trashed && (
          <Button
            look={full ? 'main' : 'plain'}
            onClick={() => openGiftDialog({ id: supporter.id, name: supporter.name })}
          >
            Record a gift
          </Button>
        )}
        {mayEdit && !supporter.trashed && (
          <Button onClick={onEdit}>
            <Pencil size={14} /> Edit
          </Button>
        )}
        <More supporter={supporter} />
      </div>
      <p className="text-faded">
        {supporter.number} · to {addresseeFormal.text}, Dear {salutationInformal.text}
        {Object.values(supporter.addressing).some((form) => form.stale) && (
          <>
            {' '}
            <StateWord tone="look">written by hand before the name changed</StateWord>
          </>
        )}
      </p>
      <p>{reach.join(' · ') || <span className="text-faded">no way to reach them on record</span>}</p>
      <Belongs supporter={supporter} />
      <Words supporter={supporter} />
      <div ref={box} className="mt-2">
        {width > 0 && (
          <TallyStick
            gifts={supporter.timeline}
            width={width}
            onOpen={(id, kind) =>
              void navigate(kind === 'pledge' ? `/gifts/pledges?show=all&peek=${id}` : `/gifts/${id}`)
            }
          />
        )}
      </div>
      <Figures supporter={supporter} full={full} />
    </header>
  );
}

/** What is done seldom: saving as a card, the trash and back. */
function More({ supporter }: { supporter: Supporter }) {
  const mayEdit = useMay(actOnSupporters);
  const act = useWrite(
    (what: 'trash' | 'restore') =>
      call(actOnSupporters, { body: { selection: { kind: 'ids', ids: [supporter.id] }, act: { do: what } } }),
    { say: () => (supporter.trashed ? `Restored ${supporter.name}` : `${supporter.name} is in the trash`) },
  );
  const card = async (version: '3.0' | '4.0'): Promise<void> =>
    download(await callFile(getCard, { params: { id: supporter.id }, query: { version } }), `${supporter.number}.vcf`);
  return (
    <>
      {mayEdit && supporter.trashed && (
        <Button look="main" busy={act.isPending} onClick={() => act.mutate('restore')}>
          <Undo2 size={14} /> Restore
        </Button>
      )}
      <Menu
        label="More"
        trigger={
          <IconButton label="More">
            <Ellipsis size={16} />
          </IconButton>
        }
        items={[
          { label: 'Save as address card (vCard 4)', onSelect: () => void card('4.0') },
          { label: 'Save as older card (vCard 3)', onSelect: () => void card('3.0') },
          ...(mayEdit && !supporter.trashed ? [{ label: 'Move to trash', onSelect: () => act.mutate('trash') }] : []),
        ]}
      />
    </>
  );
}

function Belongs({ supporter }: { supporter: Supporter }) {
  const { household, members, kind } = supporter;
  if (!household && members.length === 0) return null;
  const who = members.map((member, place) => (
    <span key={member.id}>
      {place > 0 && ', '}
      <Link className="text-slate underline" to={`/supporters/${member.id}`}>
        {member.name}
      </Link>
      {member.primary && kind === 'household' && ' (primary)'}
    </span>
  ));
  return (
    <p>
      {household ? (
        <>
          In{' '}
          <Link className="text-slate underline" to={`/supporters/${household.id}`}>
            {household.name}
          </Link>
          {members.length > 0 && ' with '}
          {who}
        </>
      ) : (
        <>Members: {who}</>
      )}
    </p>
  );
}

function Figures({ supporter, full }: { supporter: Supporter; full: boolean }) {
  const { money, date } = useFormats();
  const { kind, members } = supporter;
  // A household's figures are everyone's together; a person's own, with the household's beside them.
  const together = kind === 'household' && members.length > 0;
  const giving = together ? supporter.giving.household : supporter.giving;
  const shared = !together && supporter.giving.household.lifetime !== giving.lifetime;
  const figures: [string, string][] = [
    [together ? 'Lifetime, all together' : 'Lifetime', money(giving.lifetime)],
    ...(shared ? [['Household', money(supporter.giving.household.lifetime)] as [string, string]] : []),
    ...(supporter.giving.recognised > 0
      ? [['Recognized for', money(supporter.giving.recognised)] as [string, string]]
      : []),
    ['This fiscal year', money(giving.thisYear)],
    ['Last fiscal year', money(giving.lastYear)],
    ['Gifts', String(giving.count)],
    ['Largest', money(giving.largest)],
    ['Average', money(giving.average)],
    ['Best year', giving.bestYear ? `FY${giving.bestYear.year}, ${money(giving.bestYear.cents)}` : ''],
    ['First', date(giving.first)],
    ['Last', date(giving.last)],
  ];
  return (
    <dl className={`mt-1 mb-2 flex flex-wrap gap-y-1 ${full ? 'gap-x-6' : 'gap-x-4 text-[13px]'}`}>
      {figures.map(([name, value]) => (
        <div key={name}>
          <dt className="text-[12px] text-faded">{name}</dt>
          <dd className={name.startsWith('Lifetime') || name === 'Household' ? 'font-serif text-lg leading-tight' : ''}>
            {value || 'none'}
          </dd>
        </div>
      ))}
    </dl>
  );
}

/** Wishes and what waits, in plain words. */
function Words({ supporter }: { supporter: Supporter }) {
  const { date, money } = useFormats();
  const { organization } = useHere();
  const { wishes, refusals, pending, emails, trashed } = supporter;
  const bad = emails.some((email) => email.preferred && isBad(email, organization.today));
  const waiting = pending.unthanked + pending.tasks.length + pending.overdue.length + pending.failing.length;
  if (wishes.length + refusals.length === 0 && waiting === 0 && !bad && !trashed) return null;
  return (
    <div className="mt-1 flex flex-wrap items-center gap-x-3 gap-y-1">
      {trashed && <StateWord tone="wrong">In the trash</StateWord>}
      {wishes.map((wish) => (
        <span key={wish.kind} title={`Since ${date(wish.since)}, from ${wish.source}, set by ${wish.by}`}>
          <StateWord tone={wish.kind === 'deceased' ? 'wrong' : 'look'}>
            {WISHES[wish.kind].word}
            {wish.happenedOn && ` on ${date(wish.happenedOn)}`}
          </StateWord>
        </span>
      ))}
      {refusals.map((refusal) => (
        <RefusalWords key={refusal.id} refusal={refusal} />
      ))}
      {bad && <StateWord tone="look">E-mail bounced</StateWord>}
      {pending.unthanked > 0 && <StateWord tone="look">{counted(pending.unthanked, 'gift')} to thank</StateWord>}
      {pending.overdue.map((pledge) => (
        <Link key={pledge.pledgeId} to={`/gifts/pledges?show=all&peek=${pledge.pledgeId}`} className="hover:underline">
          <StateWord tone="wrong">
            {money(pledge.cents)} of {pledge.number} overdue since {date(pledge.since)}
          </StateWord>
        </Link>
      ))}
      {pending.failing.map((gift) => (
        <Link key={gift.recurringId} to={`/gifts/recurring?peek=${gift.recurringId}`} className="hover:underline">
          <StateWord tone="wrong">
            {gift.number} fails: {gift.reason}
          </StateWord>
        </Link>
      ))}
      {pending.tasks.map((task) => (
        <StateWord key={task.id} tone={task.due < organization.today ? 'wrong' : 'plain'}>
          {task.title}, {task.due < organization.today ? 'was due' : 'due'} {date(task.due)}
        </StateWord>
      ))}
    </div>
  );
}
