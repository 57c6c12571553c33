import { Pencil } from 'lucide-react';
import { Tabs } from 'radix-ui';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import type { Supporter } from '@tallystick/contract/supporters';
import { openGiftDialog } from '../gifts/index.ts';
import { Button, StateWord, Trouble } from '../ui/controls.tsx';
import { useKeys } from '../ui/keys.tsx';
import { useFormats, useMay } from '../ui/organization.tsx';
import { TallyStick } from '../ui/TallyStick.tsx';
import { useListUrl } from '../ui/useListUrl.ts';
import { useWidth } from '../ui/useWidth.ts';
import { useSupporter } from './api.ts';
import { Contact, Correspondence, GivenGifts, RecordHistory } from './RecordSections.tsx';
import { SupporterDialog } from './SupporterForm.tsx';

const SECTIONS = [
  ['giving', 'Giving'],
  ['contact', 'Contact'],
  ['correspondence', 'Correspondence'],
  ['history', 'History'],
] as const;

/** A supporter's record, the same in the peek and on its own page; the open section is part of the address. */
export function SupporterRecord({ id, full = false }: { id: number; full?: boolean }) {
  const { data: supporter, error } = useSupporter(id);
  const url = useListUrl();
  const [editing, setEditing] = useState<'name' | 'tags' | null>(null);
  const mayEdit = useMay('officer');
  useKeys(mayEdit ? { e: () => setEditing('name'), t: () => setEditing('tags') } : {});
  if (error && !supporter) return <Trouble error={error} />;
  if (!supporter) return <p className="p-5 text-faded">Opening …</p>;
  const section = url.get('section') || 'giving';
  return (
    <article aria-label={supporter.name}>
      <Head supporter={supporter} full={full} onEdit={() => setEditing('name')} />
      <Tabs.Root value={section} onValueChange={(next) => url.set({ section: next })}>
        <Tabs.List aria-label="Sections of the record" className="flex gap-1 border-b border-rule px-4">
          {SECTIONS.map(([name, title]) => (
            <Tabs.Trigger
              key={name}
              value={name}
              className="border-b-2 border-transparent px-2.5 py-1.5 text-faded hover:text-ink data-[state=active]:border-hazel data-[state=active]:text-ink"
            >
              {title}
            </Tabs.Trigger>
          ))}
        </Tabs.List>
        <Tabs.Content value="giving" className="px-5 py-3">
          <GivenGifts supporter={supporter} />
        </Tabs.Content>
        <Tabs.Content value="contact" className="px-5 py-3">
          <Contact supporter={supporter} />
        </Tabs.Content>
        <Tabs.Content value="correspondence" className="px-5 py-3">
          <Correspondence id={id} />
        </Tabs.Content>
        <Tabs.Content value="history" className="px-5 py-3">
          <RecordHistory id={id} />
        </Tabs.Content>
      </Tabs.Root>
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
  const { money, date } = useFormats();
  const mayEdit = useMay('officer');
  const mayEnter = useMay('entry');
  const { giving } = supporter;
  const preferred = <T extends { preferred: boolean }>(ways: readonly T[]): T | undefined =>
    ways.find((way) => way.preferred) ?? ways[0];
  const address = preferred(supporter.addresses);
  const reach = [
    preferred(supporter.emails)?.address,
    preferred(supporter.phones)?.number,
    address && [address.street, address.city, address.region].filter(Boolean).join(', '),
  ];
  const figures: [string, string][] = [
    ['Lifetime', money(giving.lifetime)],
    ['This fiscal year', money(giving.thisYear)],
    ['Last fiscal year', money(giving.lastYear)],
    ['Gifts', String(giving.count)],
    ['Largest', money(giving.largest)],
    ['First', date(giving.first)],
    ['Last', date(giving.last)],
  ];
  const open = (giftId: number): void => void navigate(`/gifts/${giftId}`);
  return (
    <header className="px-5 pt-3 pb-1">
      <div className="flex flex-wrap items-start gap-x-3 gap-y-1">
        <div className="min-w-0 flex-1">
          <h1 className={full ? 'text-[26px] leading-tight' : 'text-xl leading-tight'}>{supporter.name}</h1>
          <p className="text-faded">
            {supporter.number} · {reach.filter(Boolean).join(' · ') || 'no way to reach them on record'}
          </p>
          <Wishes supporter={supporter} />
        </div>
        {mayEnter && (
          <Button
            look={full ? 'main' : 'plain'}
            onClick={() => openGiftDialog({ id: supporter.id, name: supporter.name })}
          >
            Record a gift
          </Button>
        )}
        {mayEdit && (
          <Button onClick={onEdit}>
            <Pencil size={14} /> Edit
          </Button>
        )}
      </div>
      <div ref={box} className="mt-3">
        {width > 0 && <TallyStick gifts={supporter.tally} width={width} onOpen={open} />}
      </div>
      <dl className="mt-1 mb-2 flex flex-wrap gap-x-7 gap-y-1">
        {figures.map(([name, value]) => (
          <div key={name}>
            <dt className="text-[12px] text-faded">{name}</dt>
            <dd className={name === 'Lifetime' ? 'font-serif text-lg leading-tight' : ''}>{value || 'none'}</dd>
          </div>
        ))}
      </dl>
    </header>
  );
}

function Wishes({ supporter }: { supporter: Supporter }) {
  const bounced = supporter.emails.some((email) => email.preferred && email.bouncedOn !== null);
  const unthanked = supporter.tally.filter((gift) => gift.answeredOn === null).length;
  if (
    !supporter.noEmail &&
    !supporter.deceased &&
    !supporter.trashed &&
    !bounced &&
    unthanked === 0 &&
    supporter.tags.length === 0
  )
    return null;
  return (
    <p className="mt-1 flex flex-wrap items-center gap-x-3 gap-y-1">
      {supporter.trashed && <StateWord tone="wrong">In the trash</StateWord>}
      {supporter.deceased && <StateWord tone="wrong">Deceased</StateWord>}
      {supporter.noEmail && <StateWord tone="look">Wants no e-mail</StateWord>}
      {bounced && <StateWord tone="look">E-mail bounced</StateWord>}
      {unthanked > 0 && (
        <StateWord tone="look">{unthanked === 1 ? '1 gift to thank' : `${unthanked} gifts to thank`}</StateWord>
      )}
      {supporter.tags.map((tag) => (
        <span key={tag} className="rounded-sm border border-rule px-1.5 text-[13px] text-faded">
          {tag}
        </span>
      ))}
    </p>
  );
}
