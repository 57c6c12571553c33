import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { toast } from 'sonner';
import { REASONS } from '@tallystick/core/duplicates';
import type { ReasonField, RulePart } from '@tallystick/core/duplicates';
import { listAlike, lookForAlike } from '@tallystick/contract/duplicates';
import type { AlikeGroup } from '@tallystick/contract/duplicates';
import { call, keyOf, runningJobs } from '../ui/api.ts';
import { Choice, optionsOf } from '../ui/choice/index.tsx';
import { classes } from '../ui/classes.ts';
import { Button, Empty, Heading, Opening } from '../ui/controls.tsx';
import { useKeys } from '../ui/keys.tsx';
import { useFormats, useMay } from '../ui/organization.tsx';
import { Pick } from '../ui/Pick.tsx';
import { ProgressBar } from '../ui/ProgressBar.tsx';
import { useWrite } from '../ui/useWrite.ts';
import { Comparing } from './Comparing.tsx';
import { RuleEditor } from './RuleEditor.tsx';
import { SureDialog } from './SureDialog.tsx';

const ORDERS = { surest: 'Surest first', money: 'Most given first', largest: 'Largest groups first' } as const;
type Order = keyof typeof ORDERS;
const SIZES = { any: 'Of any size', two: 'Two records', more: 'Three or more' } as const;
type Size = keyof typeof SIZES;
/** In cents. */
const LEASTS = [0, 100_00, 1_000_00, 10_000_00];
const REASON_WORDS = Object.fromEntries(Object.entries(REASONS).map(([reason, { label }]) => [reason, label]));
/** So many groups are shown; others follow as these are settled. */
const SHOWN = 100;

/** Records that may be one: worked through group by group. */
export default function DuplicatesPage() {
  const { count, counted, money } = useFormats();
  const mayLook = useMay(lookForAlike);
  const [by, setBy] = useState<'likeness' | 'rule'>('likeness');
  const [rule, setRule] = useState<RulePart[]>([]);
  const [order, setOrder] = useState<Order>('surest');
  const [size, setSize] = useState<Size>('any');
  const [least, setLeast] = useState('0');
  const [reason, setReason] = useState<ReasonField | ''>('');
  const [sure, setSure] = useState(false);
  const { data: jobs = [] } = useQuery(runningJobs);
  const ours = jobs.filter(({ link }) => link === '/duplicates');
  const running = ours.find(({ finishedAt, kind }) => finishedAt === null && kind === 'look-for-doubles');
  const body = {
    ...{ size, least: Number(least) },
    rule: by === 'rule' ? rule : null,
    reason: by === 'rule' ? null : reason || null,
    order,
    limit: SHOWN,
  };
  // The sure ones are all that are sure, not those that are narrowed to.
  const narrowed = reason !== '' || size !== 'any' || least !== '0';
  const nothingChosen = by === 'rule' && rule.length === 0;
  const groups = useQuery({
    queryFn: ({ signal }) => call(listAlike, { body, signal }),
    queryKey: [...keyOf(listAlike, { body }), ours.map(({ id, state }) => `${id}${state}`).join(' ')],
    enabled: !nothingChosen,
    placeholderData: keepPreviousData,
  });
  const look = useWrite(() => call(lookForAlike, {}), {
    then: () => void toast.success('Looking through all records'),
  });
  const { data } = groups;
  if (!data && !nothingChosen) return <Opening error={groups.error} />;
  const never = by === 'likeness' && data?.progress === null;
  const shown = nothingChosen ? [] : (data?.items ?? []);
  const facts =
    never || nothingChosen
      ? 'Nobody looked yet since the server was started.'
      : `${counted(data?.total ?? 0, 'group')}, ${counted(data?.records ?? 0, 'record')}${
          by === 'likeness' && data?.progress ? `; ${count(data.progress.done)} records were looked at` : ''
        }${data?.tooLarge ? `; ${counted(data.tooLarge, 'group')} of more than 50 left out` : ''}.`;
  return (
    <>
      <Heading title="Records that may be one" facts={nothingChosen ? 'Choose what must agree.' : facts}>
        {running && (
          <ProgressBar label="Looking through all records" done={running.done} total={Math.max(1, running.total)} />
        )}
        {mayLook && by === 'likeness' && !narrowed && (data?.total ?? 0) > 0 && (
          <Button onClick={() => setSure(true)}>Merge the sure ones …</Button>
        )}
        {mayLook && by === 'likeness' && (
          <Button
            look={never ? 'main' : undefined}
            disabled={running !== undefined || look.isPending}
            onClick={() => look.mutate(undefined)}
          >
            {running ? 'Looking …' : 'Look through all records'}
          </Button>
        )}
      </Heading>
      {sure && <SureDialog onClose={() => setSure(false)} />}
      <div className="flex flex-wrap items-center gap-3 border-b border-rule px-5 py-2">
        <Pick
          label="How they are found"
          options={[
            { value: 'likeness', label: 'By likeness' },
            { value: 'rule', label: 'By what agrees' },
          ]}
          value={by}
          onChange={setBy}
        />
        <div className="w-56">
          <Choice
            aria-label="Order"
            value={order}
            options={optionsOf(ORDERS)}
            onChange={(value) => setOrder(value as Order)}
          />
        </div>
        {by === 'likeness' && (
          <div className="w-56">
            <Choice
              aria-label="In what two of them agree"
              value={reason}
              options={[
                { value: '', label: 'Whatever agrees' },
                ...optionsOf(REASON_WORDS).map(({ value, label }) => ({ value, label: `Agree in ${label}` })),
              ]}
              onChange={(value) => setReason(value as ReasonField | '')}
            />
          </div>
        )}
        <div className="w-36">
          <Choice
            aria-label="Size"
            value={size}
            options={optionsOf(SIZES)}
            onChange={(value) => setSize(value as Size)}
          />
        </div>
        <div className="w-48">
          <Choice
            aria-label="What they gave"
            value={least}
            options={LEASTS.map((cents) => ({
              value: String(cents),
              label: cents === 0 ? 'Whatever they gave' : `Gave ${money(cents)} or more`,
            }))}
            onChange={setLeast}
          />
        </div>
        {by === 'rule' && <RuleEditor rule={rule} onChange={setRule} />}
      </div>
      {shown.length > 0 ? (
        <Working key={`${by} ${reason} ${size} ${least}`} groups={shown} total={data?.total ?? 0} />
      ) : (
        <Empty
          title={
            never
              ? 'Nobody looked yet'
              : nothingChosen
                ? 'Choose what must agree'
                : narrowed
                  ? 'No group is like that'
                  : 'No two records look alike'
          }
        >
          {never
            ? 'All records are compared by name, address, e-mail, telephone and birthday. It takes some seconds.'
            : nothingChosen
              ? 'One field or several; the groups are counted at once.'
              : data?.tooLarge
                ? 'More than fifty records agree in each of the groups; choose another field beside.'
                : 'Who is added later is compared as well.'}
        </Empty>
      )}
    </>
  );
}

/** The groups at the left, the one in hand beside them. What is settled vanishes, and the next takes its place. */
function Working({ groups, total }: { groups: readonly AlikeGroup[]; total: number }) {
  const { counted } = useFormats();
  const mayMerge = useMay(lookForAlike);
  const [at, setAt] = useState(0);
  const place = Math.min(at, groups.length - 1);
  const group = groups[place];
  const list = useRef<HTMLUListElement>(null);
  useEffect(() => {
    list.current?.querySelector('[aria-current=true]')?.scrollIntoView({ block: 'nearest' });
  }, [place]);
  const go = (to: number) => () => setAt(Math.max(0, Math.min(groups.length - 1, to)));
  useKeys({ j: go(place + 1), k: go(place - 1), ArrowDown: go(place + 1), ArrowUp: go(place - 1) });
  return (
    <div className="flex min-h-0 grow">
      <ul ref={list} aria-label="Groups" className="w-80 shrink-0 overflow-auto border-r border-rule">
        {groups.map((one, index) => (
          <li key={one.members.map(({ id }) => id).join()}>
            <GroupLine group={one} current={index === place} onOpen={go(index)} />
          </li>
        ))}
        {total > groups.length && (
          <li className="px-4 py-2 text-[13px] text-faded">{counted(total - groups.length, 'more group')} follow.</li>
        )}
      </ul>
      <div className="min-w-0 grow overflow-auto">
        {group && mayMerge && (
          <>
            <p className="px-5 pt-3 text-[13px] text-faded">
              {group.chance > 99 ? 'Over 99' : group.chance} % likely one: {group.reasons.join('; ')}
            </p>
            <Comparing
              key={group.members.map(({ id }) => id).join()}
              ids={group.members.map(({ id }) => id)}
              onDone={() => undefined}
              onApart={() => undefined}
            />
          </>
        )}
      </div>
    </div>
  );
}

function GroupLine({ group, current, onOpen }: { group: AlikeGroup; current: boolean; onOpen: () => void }) {
  const { money } = useFormats();
  const names = [...new Set(group.members.map(({ name }) => name))];
  return (
    <button
      type="button"
      aria-current={current}
      onClick={onOpen}
      className={classes(
        'block w-full border-b border-rule px-4 py-2 text-left hover:bg-hover',
        current && 'border-l-4 border-l-hazel bg-hover pl-3',
      )}
    >
      <span className="block font-serif">{names.join(', ')}</span>
      <span className="block text-[13px] text-faded">
        {group.reasons[0] ?? ''}
        {group.members.length > 2 && ` · ${group.members.length} records`}
        {group.cents > 0 && ` · ${money(group.cents)}`}
      </span>
    </button>
  );
}
