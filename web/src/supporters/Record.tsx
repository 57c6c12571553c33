import { Ellipsis, Pencil, Undo2 } from 'lucide-react';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { recordGift } from '@tallystick/contract/gifts';
import { updateSupporter } from '@tallystick/contract/supporters';
import { actOnSupporters, getCard } from '@tallystick/contract/acts';
import { mergeRecords } from '@tallystick/contract/duplicates';
import { noteMove } from '@tallystick/contract/upkeep';
import type { Supporter } from '@tallystick/contract/supporters';
import { isBad } from '@tallystick/core/contact';
import { WISHES } from '@tallystick/core/wishes';
import { counted } from '@tallystick/core/words';
import { openGiftDialog, useInSight } from '../gifts/index.ts';
import { download } from '../ui/download.ts';
import { call, callFile } from '../ui/api.ts';
import { Button, IconButton, Opening, StateWord } from '../ui/controls.tsx';
import { useKeys } from '../ui/keys.tsx';
import { useFormats, useHere, useMay } from '../ui/organization.tsx';
import { Menu } from '../ui/overlays.tsx';
import { TallyStick } from '../ui/charts/TallyStick.tsx';
import { useWidth } from '../ui/useWidth.ts';
import { useWrite } from '../ui/useWrite.ts';
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
import { Figures, RecordFrame, useInPeek } from '../ui/record/index.ts';
import type { Figure } from '../ui/record/index.ts';

/** A supporter's record, the same in the peek and on its own page. */
export function SupporterRecord({ id }: { id: number }) {
  const { data: supporter, error } = useSupporter(id);
  const [editing, setEditing] = useState<Begin | null>(null);
  const mayEdit = useMay(updateSupporter);
  useKeys(mayEdit ? { e: () => setEditing('name'), t: () => setEditing('tags') } : {});
  if (!supporter) return <Opening error={error} />;
  return (
    <RecordFrame
      label={supporter.name}
      title={supporter.name}
      acts={<MainActs supporter={supporter} onEdit={() => setEditing('name')} />}
      head={<Head supporter={supporter} />}
      sections={{
        giving: { title: 'Giving', shows: <GivenGifts supporter={supporter} /> },
        contact: { title: 'Contact', shows: <Contact supporter={supporter} /> },
        relations: { title: 'Relations', shows: <RelationsSection supporter={supporter} /> },
        correspondence: { title: 'Correspondence', shows: <Correspondence id={id} /> },
        notes: { title: 'Notes and tasks', shows: <NotesSection supporter={supporter} /> },
        tags: {
          title: 'Tags and fields',
          shows: <TagsAndFields supporter={supporter} onEdit={() => setEditing('tags')} />,
        },
        history: { title: 'History', shows: <RecordHistory id={id} /> },
      }}
      beside={(open) => <Beside supporter={supporter} open={open} />}
    >
      {editing && (
        <SupporterDialog
          open
          supporter={supporter}
          begin={editing}
          onClose={() => setEditing(null)}
          onDone={() => setEditing(null)}
        />
      )}
    </RecordFrame>
  );
}

function MainActs({ supporter, onEdit }: { supporter: Supporter; onEdit: () => void }) {
  const peeked = useInPeek();
  const mayEdit = useMay(updateSupporter);
  const mayEnter = useMay(recordGift);
  return (
    <>
      {mayEnter && !supporter.trashed && (
        <Button
          look={peeked ? 'plain' : 'main'}
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
    </>
  );
}

function Head({ supporter }: { supporter: Supporter }) {
  const [box, width] = useWidth();
  const navigate = useNavigate();
  const { addresseeFormal, salutationInformal } = supporter.addressing;
  const reach = [supporter.reach.email, supporter.reach.phone, supporter.reach.lines.join(', ')].filter(Boolean);
  useInSight(supporter);
  return (
    <>
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
            onOpen={(id, kind) => void navigate(kind === 'pledge' ? `/gifts/pledges/${id}` : `/gifts/${id}`)}
          />
        )}
      </div>
      <Given supporter={supporter} />
    </>
  );
}

/** What may have happened to them, each an act of its own. */
const happened = ({ id, kind, household, reach }: Supporter): [label: string, path: string][] => [
  ['New address …', `/upkeep/moved?id=${id}`],
  ...(kind === 'person' ? [['Shares a home with …', `/upkeep/joins?ids=${id}`] as [string, string]] : []),
  ...(kind === 'household' || household
    ? [['The household parts …', `/upkeep/parts?id=${id}`] as [string, string]]
    : []),
  ...(kind === 'person' && !reach.deceased ? [['Died …', `/upkeep/died?id=${id}`] as [string, string]] : []),
];

/** What is done seldom: saving as a card, the trash and back. */
function More({ supporter }: { supporter: Supporter }) {
  const navigate = useNavigate();
  const mayMerge = useMay(mergeRecords);
  const mayKeep = useMay(noteMove);
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
          ...(mayKeep && !supporter.trashed
            ? happened(supporter).map(([label, path]) => ({ label, onSelect: () => void navigate(path) }))
            : []),
          ...(mayMerge && !supporter.trashed
            ? [
                {
                  label: 'Merge with another …',
                  onSelect: () => void navigate(`/duplicates/merge?ids=${supporter.id}`),
                },
              ]
            : []),
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

function Given({ supporter }: { supporter: Supporter }) {
  const { money, date } = useFormats();
  const peeked = useInPeek();
  const { kind, members } = supporter;
  // A household's figures are everyone's together; a person's own, with the household's beside them.
  const together = kind === 'household' && members.length > 0;
  const giving = together ? supporter.giving.household : supporter.giving;
  const shared = !together && supporter.giving.household.lifetime !== giving.lifetime;
  const figures: Figure[] = [
    { name: together ? 'Lifetime, all together' : 'Lifetime', value: money(giving.lifetime), large: true },
    ...(shared ? [{ name: 'Household', value: money(supporter.giving.household.lifetime), large: true }] : []),
    ...(supporter.giving.recognised > 0 ? [{ name: 'Recognized for', value: money(supporter.giving.recognised) }] : []),
    { name: 'This fiscal year', value: money(giving.thisYear) },
    { name: 'Last fiscal year', value: money(giving.lastYear) },
    { name: 'Gifts', value: String(giving.count) },
    { name: 'Largest', value: money(giving.largest) },
    { name: 'Average', value: money(giving.average) },
    { name: 'Best year', value: giving.bestYear ? `FY${giving.bestYear.year}, ${money(giving.bestYear.cents)}` : '' },
    { name: 'First', value: date(giving.first) },
    { name: 'Last', value: date(giving.last) },
  ];
  return (
    <div className="mt-1 mb-2">
      <Figures figures={figures} tight={peeked} />
    </div>
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
        <Link key={pledge.pledgeId} to={`/gifts/pledges/${pledge.pledgeId}`} className="hover:underline">
          <StateWord tone="wrong">
            {money(pledge.cents)} of {pledge.number} overdue since {date(pledge.since)}
          </StateWord>
        </Link>
      ))}
      {pending.failing.map((gift) => (
        <Link key={gift.recurringId} to={`/gifts/recurring/${gift.recurringId}`} className="hover:underline">
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
