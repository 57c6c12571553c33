import { useQuery } from '@tanstack/react-query';
import { EllipsisVertical, Pin as PinIcon } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import { READY_ACTS } from '@tallystick/contract/common';
import type { ReadyAct } from '@tallystick/contract/common';
import { createTask } from '@tallystick/contract/notes';
import { addPin, arrangePins, listPins, removePin } from '@tallystick/contract/pins';
import type { Pin } from '@tallystick/contract/pins';
import { TaskDialog } from '../supporters/index.ts';
import { ask, call } from '../ui/api.ts';
import { Choice } from '../ui/choice/index.tsx';
import { Button, IconButton } from '../ui/controls.tsx';
import { useFormats } from '../ui/organization.tsx';
import { useMay } from '../ui/organization.tsx';
import { Dialog, DialogActions, Menu } from '../ui/overlays.tsx';
import { READY_WORDS, useReadyAct } from '../ui/readyActs.ts';
import { useWrite } from '../ui/useWrite.ts';

/** Pins a segment, or a ready act on it, to one's own Today, or has a task carry it. */
export function PinMenu({ segmentId, name }: { segmentId: number; name: string }) {
  const maySet = useMay(createTask);
  const [setting, setSetting] = useState(false);
  const pin = useWrite((act: ReadyAct) => call(addPin, { body: { segmentId, act } }), { say: () => 'Pinned to Today' });
  const tasks = maySet ? [{ label: 'A task that carries it …', onSelect: () => setSetting(true) }] : [];
  return (
    <>
      <Menu
        label="Pin to Today"
        trigger={
          <Button busy={pin.isPending}>
            <PinIcon size={14} /> Pin …
          </Button>
        }
        items={[
          ...READY_ACTS.map((act) => ({
            label: act === 'open' ? 'The segment with its count' : READY_WORDS[act],
            onSelect: () => pin.mutate(act),
          })),
          ...tasks,
        ]}
      />
      {setting && <TaskDialog about={null} carries={{ segmentId, name }} onClose={() => setSetting(false)} />}
    </>
  );
}

/** What one pinned to Today, by section and in one's own order, each with its current count. */
export function Pins() {
  const pins = useQuery(ask(listPins)).data?.items ?? [];
  const { count } = useFormats();
  const act = useReadyAct();
  const arrange = useWrite((items: readonly Pin[]) =>
    call(arrangePins, { body: { items: items.map(({ id, section }, place) => ({ id, section, place })) } }),
  );
  const remove = useWrite((id: number) => call(removePin, { params: { id } }), { say: () => 'Taken off Today' });
  const [putting, setPutting] = useState<Pin | null>(null);
  if (pins.length === 0) return null;
  // Those of no section come first, since nothing would tell them from the section before.
  const sections = [...new Set(pins.map(({ section }) => section))].sort((a, b) => Number(a !== '') - Number(b !== ''));
  const inOrder = sections.flatMap((section) => pins.filter((pin) => pin.section === section));
  const step = (pin: Pin, by: -1 | 1): void => {
    const at = inOrder.indexOf(pin);
    const other = inOrder[at + by];
    // A pin that goes past the end of its section goes into the next one.
    if (!other) return;
    if (other.section !== pin.section)
      return arrange.mutate(inOrder.map((one) => (one === pin ? { ...pin, section: other.section } : one)));
    arrange.mutate(inOrder.map((one) => (one === pin ? other : one === other ? pin : one)));
  };
  return (
    <section aria-labelledby="pins" className="mb-5">
      <h2 id="pins" className="border-b border-rule pb-1 text-lg">
        Pinned
      </h2>
      {sections.map((section) => (
        <div key={section}>
          {section !== '' && <h3 className="mt-2 text-[13px] text-faded">{section}</h3>}
          <ul className="divide-y divide-rule">
            {inOrder
              .filter((pin) => pin.section === section)
              .map((pin) => (
                <li
                  key={pin.id}
                  className="flex items-baseline gap-3 py-1.5"
                  onKeyDown={(event) => {
                    const by = event.key === 'ArrowUp' ? -1 : event.key === 'ArrowDown' ? 1 : null;
                    if (!event.altKey || by === null) return;
                    event.preventDefault();
                    step(pin, by);
                  }}
                >
                  <span className="w-12 text-right font-serif text-xl text-hazel">{count(pin.count)}</span>
                  <Link to={`/segments/${pin.segmentId}`} className="min-w-0 flex-1 truncate hover:underline">
                    {pin.name}
                  </Link>
                  {pin.act !== 'open' && (
                    <Button look="quiet" className="h-7 px-2" busy={act.isPending} onClick={() => act.mutate(pin)}>
                      {READY_WORDS[pin.act]}
                    </Button>
                  )}
                  <Menu
                    label={`Arrange ${pin.name}`}
                    trigger={
                      <IconButton label={`Arrange ${pin.name}, ${READY_WORDS[pin.act]}`}>
                        <EllipsisVertical size={14} />
                      </IconButton>
                    }
                    items={[
                      { label: 'Move up', keys: 'Alt+↑', onSelect: () => step(pin, -1) },
                      { label: 'Move down', keys: 'Alt+↓', onSelect: () => step(pin, 1) },
                      { label: 'Put under a section …', onSelect: () => setPutting(pin) },
                      { label: 'Take off Today', onSelect: () => remove.mutate(pin.id) },
                    ]}
                  />
                </li>
              ))}
          </ul>
        </div>
      ))}
      {putting && (
        <SectionDialog
          pin={putting}
          sections={sections.filter(Boolean)}
          onPut={(section) => {
            arrange.mutate(pins.map((one) => (one.id === putting.id ? { ...one, section } : one)));
            setPutting(null);
          }}
          onClose={() => setPutting(null)}
        />
      )}
    </section>
  );
}

function SectionDialog(props: {
  pin: Pin;
  sections: readonly string[];
  onPut: (section: string) => void;
  onClose: () => void;
}) {
  const { pin, sections, onPut, onClose } = props;
  const [section, setSection] = useState(pin.section);
  const named = [...new Set([...sections, section])].filter(Boolean);
  return (
    <Dialog open onClose={onClose} title={`Put ${pin.name} under`}>
      <Choice
        aria-label="Section"
        value={section}
        onChange={setSection}
        onAdd={(typed) => setSection(typed.slice(0, 60))}
        options={[{ value: '', label: 'no section' }, ...named.map((one) => ({ value: one, label: one }))]}
      />
      <DialogActions>
        <Button onClick={onClose}>Not now</Button>
        <Button look="main" onClick={() => onPut(section)}>
          Put it there
        </Button>
      </DialogActions>
    </Dialog>
  );
}
