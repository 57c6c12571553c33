import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { supporterNumber } from '@tallystick/core/supporters';
import { getPeopleList, listPeopleLists, pastePeople } from '@tallystick/contract/segments';
import type { PeopleList } from '@tallystick/contract/segments';
import type { ResponseOf } from '@tallystick/contract/endpoint';
import { ask, sendFile } from '../ui/api.ts';
import { Choice } from '../ui/choice/index.tsx';
import { Button, Input } from '../ui/controls.tsx';
import { useFormats, useMay } from '../ui/organization.tsx';
import { Dialog, DialogActions } from '../ui/overlays.tsx';
import { Fault } from '../ui/form/index.ts';
import { useWrite } from '../ui/useWrite.ts';

type Report = ResponseOf<typeof pastePeople>['report'];

/** A list of people that a condition names: one that there is, or a new one that is pasted. */
export function ListOfPeople({ list, onChange }: { list: number; onChange: (list: number) => void }) {
  const { data } = useQuery(ask(listPeopleLists));
  const { counted, date } = useFormats();
  const mayPaste = useMay(pastePeople);
  const [pasting, setPasting] = useState(false);
  const lists = data?.items ?? [];
  const missing = data && list !== 0 && !lists.some(({ id }) => id === list);
  return (
    <>
      <Choice
        aria-label="List of people"
        className="w-auto min-w-64"
        placeholder={missing ? 'No longer there: choose another' : 'Choose a list'}
        value={list === 0 ? '' : list}
        onChange={(picked) => onChange(Number(picked))}
        options={lists.map((one) => ({
          ...{ value: one.id, label: one.name, also: `${counted(one.many, 'supporter')}, ${date(one.madeOn)}` },
        }))}
      />
      {mayPaste && <Button onClick={() => setPasting(true)}>Paste a list …</Button>}
      {list !== 0 && <LookAt key={list} list={list} />}
      {pasting && (
        <PasteDialog
          onClose={() => setPasting(false)}
          onMade={(made) => {
            setPasting(false);
            onChange(made.id);
          }}
        />
      )}
    </>
  );
}

/** What became of the lines of a pasted list. */
function LookAt({ list }: { list: number }) {
  const { data } = useQuery(ask(getPeopleList, { params: { id: list } }));
  const { counted } = useFormats();
  const [open, setOpen] = useState(false);
  if (!data) return null;
  const left = data.report ? data.report.unknownTotal + data.report.ambiguousTotal : 0;
  return (
    <>
      <span className="text-faded">{counted(data.many, 'supporter')}</span>
      {data.report && left > 0 && (
        <Button look="quiet" className="h-7 px-2 text-madder" onClick={() => setOpen(true)}>
          {counted(left, 'line')} left over
        </Button>
      )}
      {open && data.report && (
        <Dialog open onClose={() => setOpen(false)} title={`Lines left over of ${data.name}`}>
          <LeftOver report={data.report} />
        </Dialog>
      )}
    </>
  );
}

function LeftOver({ report }: { report: Report }) {
  const { counted, count } = useFormats();
  return (
    <div className="space-y-3">
      {report.unknownTotal > 0 && (
        <section>
          <h3 className="font-medium">{counted(report.unknownTotal, 'line')} that nobody answers to</h3>
          <ul
            className="max-h-48 overflow-auto font-mono text-[13px]"
            tabIndex={0}
            aria-label="Lines that nobody answers to"
          >
            {report.unknown.map((line, at) => (
              <li key={at}>{line}</li>
            ))}
          </ul>
          {report.unknownTotal > report.unknown.length && (
            <p className="text-faded">The first {count(report.unknown.length)} are kept.</p>
          )}
        </section>
      )}
      {report.ambiguousTotal > 0 && (
        <section>
          <h3 className="font-medium">
            {counted(report.ambiguousTotal, 'line')} that several answer to; none of them is taken
          </h3>
          <ul className="max-h-48 overflow-auto text-[13px]" tabIndex={0} aria-label="Lines that several answer to">
            {report.ambiguous.map(({ line, ids }, at) => (
              <li key={at}>
                <span className="font-mono">{line}</span>
                <span className="text-faded"> is {ids.map(supporterNumber).join(' or ')}</span>
              </li>
            ))}
          </ul>
        </section>
      )}
    </div>
  );
}

function PasteDialog({ onClose, onMade }: { onClose: () => void; onMade: (list: PeopleList) => void }) {
  const { counted, count } = useFormats();
  const [name, setName] = useState('');
  const [text, setText] = useState('');
  const [made, setMade] = useState<ResponseOf<typeof pastePeople> | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const paste = useWrite(() => sendFile(pastePeople, { name: name.trim() || 'Pasted list' }, new Blob([text])), {
    then: setMade,
  });
  const send = (): void => {
    setFault(text.trim() === '' ? 'Paste the numbers, e-mails or names first.' : null);
    if (text.trim() !== '') paste.mutate(undefined);
  };
  if (made) {
    const { lines, doubled, unknownTotal, ambiguousTotal } = made.report;
    return (
      <Dialog open onClose={() => onMade(made)} title={`${counted(made.many, 'supporter')} found`}>
        <p aria-live="polite">
          Of {counted(lines, 'line')}: {count(made.many)} found, {count(doubled)} doubled, {count(unknownTotal)}{' '}
          unknown, {count(ambiguousTotal)} ambiguous.
        </p>
        <LeftOver report={made.report} />
        <DialogActions>
          <Button look="main" autoFocus onClick={() => onMade(made)}>
            Use this list
          </Button>
        </DialogActions>
      </Dialog>
    );
  }
  return (
    <Dialog open onClose={onClose} title="Paste a list of people">
      <form
        className="space-y-3"
        onSubmit={(event) => {
          event.preventDefault();
          send();
        }}
      >
        <label className="block">
          Numbers, e-mails or names, one a line
          <textarea
            autoFocus
            aria-label="Numbers, e-mails or names"
            className="mt-1 h-48 w-full rounded border border-rule bg-sheet px-2 py-1 font-mono text-[13px]"
            value={text}
            onChange={(event) => setText(event.target.value)}
            onKeyDown={(event) => {
              if (event.key !== 'Enter' || !event.ctrlKey) return;
              event.preventDefault();
              send();
            }}
          />
        </label>
        <label className="block">
          What the list is called
          <Input
            className="mt-1"
            aria-label="Name of the list"
            placeholder="Pasted list"
            value={name}
            onChange={(event) => setName(event.target.value)}
          />
        </label>
        <Fault>{fault}</Fault>
        <DialogActions>
          <Button onClick={onClose}>Cancel</Button>
          <Button look="main" type="submit" busy={paste.isPending}>
            Find them
          </Button>
        </DialogActions>
      </form>
    </Dialog>
  );
}
