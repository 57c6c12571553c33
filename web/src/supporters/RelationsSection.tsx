import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { z } from 'zod';
import {
  createRelation,
  deleteRelation,
  getNetwork,
  listRelationKinds,
  listRelations,
  updateRelation,
} from '@tallystick/contract/relations';
import type { Relation } from '@tallystick/contract/relations';
import type { Supporter } from '@tallystick/contract/supporters';
import { ask, call } from '../ui/api.ts';
import { Choice } from '../ui/choice/index.tsx';
import { Button, Empty, Field, Trouble } from '../ui/controls.tsx';
import { DayField, EntryDialog, orNone, picked, readInto, TextField, typedDay, useEntry } from '../ui/form/index.ts';
import { useFormats, useHere, useMay } from '../ui/organization.tsx';
import { SupporterPicker } from '../ui/SupporterPicker.tsx';
import type { Picked } from '../ui/SupporterPicker.tsx';
import { useWidth } from '../ui/useWidth.ts';
import { useWrite } from '../ui/useWrite.ts';

/** Who a supporter is tied to: a list to read and change, and a picture to walk. */
export function RelationsSection({ supporter }: { supporter: Supporter }) {
  const { id } = supporter;
  const mayEdit = useMay(createRelation);
  const [adding, setAdding] = useState(false);
  const ties = useQuery(ask(listRelations, { params: { id } }));
  if (ties.error) return <Trouble error={ties.error} />;
  return (
    <div className="grid gap-6 @3xl:grid-cols-[minmax(0,1.1fr)_minmax(0,1fr)]">
      <section aria-label="Ties">
        <ul>
          {ties.data?.items.map((tie) => (
            <TieLine key={tie.id} tie={tie} mayEdit={mayEdit} />
          ))}
        </ul>
        {ties.data?.items.length === 0 && (
          <Empty title="No tie yet">
            Spouses, parents, employers, contacts of an organization, advisers of a fund.
          </Empty>
        )}
        {mayEdit && (
          <Button look="quiet" className="-ml-3" onClick={() => setAdding(true)}>
            Add a tie
          </Button>
        )}
      </section>
      <NetworkPicture id={id} />
      {adding && <TieDialog supporter={supporter} onClose={() => setAdding(false)} />}
    </div>
  );
}

function TieLine({ tie, mayEdit }: { tie: Relation; mayEdit: boolean }) {
  const { date } = useFormats();
  const { organization } = useHere();
  const over = tie.until !== null && tie.until < organization.today;
  const end = useWrite(() =>
    call(updateRelation, {
      params: { id: tie.id },
      body: { version: tie.version, title: tie.title, note: tie.note, since: tie.since, until: organization.today },
    }),
  );
  const remove = useWrite(() => call(deleteRelation, { params: { id: tie.id } }));
  const dates = [tie.since && `since ${date(tie.since)}`, tie.until && `until ${date(tie.until)}`]
    .filter(Boolean)
    .join(', ');
  return (
    <li className={`flex items-baseline gap-2 border-b border-rule py-1 ${over ? 'text-faded' : ''}`}>
      <span className="w-32 shrink-0 text-faded">{tie.role}</span>
      <span className="min-w-0 flex-1">
        <Link className="font-serif text-slate hover:underline" to={`/supporters/${tie.other.id}?section=relations`}>
          {tie.other.name}
        </Link>
        {tie.title && `, ${tie.title}`}{' '}
        <span className="text-[13px] text-faded">{[dates, tie.note].filter(Boolean).join(' · ')}</span>
      </span>
      {mayEdit && !over && (
        <Button look="quiet" className="h-6 px-1.5" onClick={() => end.mutate(undefined)}>
          End
        </Button>
      )}
      {mayEdit && (
        <Button look="quiet" className="h-6 px-1.5" onClick={() => remove.mutate(undefined)}>
          Delete
        </Button>
      )}
    </li>
  );
}

function TieDialog({ supporter, onClose }: { supporter: Supporter; onClose: () => void }) {
  const kinds = useQuery(ask(listRelationKinds));
  // What the other is to this one; a tie with one word for both is offered once.
  const options = (kinds.data?.items ?? []).flatMap((kind) => [
    { value: `${kind.id} second`, word: kind.name, fits: kind.to.length === 0 || kind.to.includes(supporter.kind) },
    ...(kind.name === kind.back
      ? []
      : [
          {
            value: `${kind.id} first`,
            word: kind.back,
            fits: kind.from.length === 0 || kind.from.includes(supporter.kind),
          },
        ]),
  ]);
  const fitting = options.filter((option) => option.fits);
  const entry = useEntry({
    schema: readInto(
      z
        .object({
          /** `12 first`: the kind, and whether this supporter is the first of the two. */
          kind: z.string(),
          other: picked('Choose who it is: type a name and press Enter.'),
          title: z.string(),
          note: z.string(),
          since: orNone(typedDay, null),
          until: orNone(typedDay, null),
        })
        .transform(({ kind, other, ...details }) => {
          const [kindId, place] = (kind || (fitting[0]?.value ?? '')).split(' ');
          const [fromId, toId] = place === 'first' ? [supporter.id, other] : [other, supporter.id];
          return { ...details, kindId: Number(kindId), fromId, toId };
        }),
      createRelation.body,
    ),
    initial: { kind: '', other: null as Picked | null, title: '', note: '', since: '', until: '' },
    at: { fromId: 'other', toId: 'other' },
    send: (body) => call(createRelation, { body }),
    say: () => 'The tie is added',
    then: onClose,
  });
  return (
    <EntryDialog entry={entry} onClose={onClose} title={`Add a tie of ${supporter.name}`} word="Add the tie">
      <div className="grid grid-cols-[12rem_1fr] gap-3">
        <Field label="Their">
          {(attributes) => (
            <Choice
              {...attributes}
              value={entry.typed.kind || (fitting[0]?.value ?? '')}
              onChange={(kind) => entry.put({ kind })}
              options={fitting.map((option) => ({ value: option.value, label: option.word }))}
            />
          )}
        </Field>
        <Field name="other" label="is" error={entry.fault('other')}>
          {(attributes) => (
            <SupporterPicker
              {...attributes}
              label="The other supporter"
              autoFocus
              value={entry.typed.other}
              onPick={(other) => entry.put({ other })}
            />
          )}
        </Field>
      </div>
      <div className="grid grid-cols-3 gap-3">
        <TextField entry={entry} name="title" label="Title, for a contact" />
        <DayField entry={entry} name="since" label="Since" />
        <DayField entry={entry} name="until" label="Until" />
      </div>
      <TextField entry={entry} name="note" label="Note" />
    </EntryDialog>
  );
}

const HEIGHT = 300;

/** The surroundings of a supporter as a picture; a name walks there. */
function NetworkPicture({ id }: { id: number }) {
  const [box, width] = useWidth();
  const navigate = useNavigate();
  const { data } = useQuery(ask(getNetwork, { params: { id } }));
  if (!data || data.nodes.length < 2) return <div ref={box} />;
  // Stretched to the space there is, however the rings fall.
  const [left, right] = [Math.min(...data.nodes.map((node) => node.x)), Math.max(...data.nodes.map((node) => node.x))];
  const [top, bottom] = [Math.min(...data.nodes.map((node) => node.y)), Math.max(...data.nodes.map((node) => node.y))];
  const fit = (value: number, low: number, high: number, room: number, edge: number): number =>
    high - low < 0.01 ? room / 2 : edge + ((value - low) / (high - low)) * (room - 2 * edge);
  const at = new Map(
    data.nodes.map((node) => [
      node.id,
      { x: fit(node.x, left, right, width, 90), y: fit(node.y, top, bottom, HEIGHT, 22) },
    ]),
  );
  const short = (name: string): string => (name.length > 26 ? `${name.slice(0, 25)}…` : name);
  const boxOf = (name: string): number => 14 + 6.6 * short(name).length;
  return (
    <div ref={box}>
      {width > 0 && (
        <svg width={width} height={HEIGHT} role="group" aria-label="Who is tied to whom">
          {data.ties.map((tie) => {
            const [from, to] = [at.get(tie.fromId), at.get(tie.toId)];
            if (!from || !to) return null;
            return (
              <g key={`${tie.fromId} ${tie.toId} ${tie.word}`}>
                <line
                  x1={from.x}
                  y1={from.y}
                  x2={to.x}
                  y2={to.y}
                  stroke="var(--hazel)"
                  strokeWidth={1}
                  strokeDasharray={tie.ended ? '3 3' : undefined}
                />
                <text
                  x={(from.x + to.x) / 2}
                  y={(from.y + to.y) / 2 - (Math.abs(from.y - to.y) < 24 ? 15 : 3)}
                  textAnchor="middle"
                  className="fill-faded stroke-paper text-[11px] [paint-order:stroke] [stroke-width:4px]"
                >
                  {tie.word}
                </text>
              </g>
            );
          })}
          {data.nodes.map((node) => {
            const place = at.get(node.id) ?? { x: 0, y: 0 };
            const walk = (): void => void navigate(`/supporters/${node.id}?section=relations`);
            return (
              <g
                key={node.id}
                transform={`translate(${place.x},${place.y})`}
                role="link"
                tabIndex={node.ring === 0 ? -1 : 0}
                aria-label={`${node.name}, ${node.kind}`}
                className={node.ring === 0 ? '' : 'cursor-pointer'}
                onClick={() => node.ring > 0 && walk()}
                onKeyDown={(event) => event.key === 'Enter' && node.ring > 0 && walk()}
              >
                <rect
                  x={-boxOf(node.name) / 2}
                  y={-11}
                  width={boxOf(node.name)}
                  height={22}
                  rx={4}
                  fill={node.ring === 0 ? 'var(--straw)' : 'var(--sheet)'}
                  stroke="var(--rule)"
                />
                <text y={4} textAnchor="middle" className="fill-ink font-serif text-[12px]">
                  {short(node.name)}
                </text>
              </g>
            );
          })}
        </svg>
      )}
    </div>
  );
}
