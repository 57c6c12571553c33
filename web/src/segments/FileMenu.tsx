import { useQuery } from '@tanstack/react-query';
import { Download } from 'lucide-react';
import { useState } from 'react';
import { toast } from 'sonner';
import { all, fieldIs, FOR_OFFICE, rowWords } from '@tallystick/core/segments';
import { checkTable, fileOfSegment } from '@tallystick/contract/segments';
import type { Asked, Goes, Group, View } from '@tallystick/contract/segments';
import { ExportDialog, HeldBackList, UseFields } from '../supporters/index.ts';
import { ask, callFile } from '../ui/api.ts';
import { download } from '../ui/download.ts';
import { Choice } from '../ui/choice/index.tsx';
import { DateField } from '../ui/dates/DateField.tsx';
import { Button, Field, Trouble } from '../ui/controls.tsx';
import { useFormats } from '../ui/organization.tsx';
import { Dialog, DialogActions, Menu } from '../ui/overlays.tsx';
import { useWrite } from '../ui/useWrite.ts';

/** Those who have a row: where there is one row for each of a kind, nobody else. */
export const whom = (asked: Asked, { rows }: View): Asked =>
  rows === 'person' || rows === 'organization'
    ? { ...asked, conditions: all(asked.conditions as never, fieldIs('kind', rows)) as Group }
    : asked;

const IN_WORDS: Record<Goes['for'], string> = {
  ...{ office: '', mail: ', to write by post', email: ', to write by e-mail', call: ', to call' },
};

/** The table, or its supporters, as files. */
export function FileMenu(props: {
  asked: Asked;
  view: View;
  onView: (view: View) => void;
  total: number;
  single: boolean;
}) {
  const { asked, view, total } = props;
  const { counted } = useFormats();
  const [open, setOpen] = useState<'goes' | 'people' | null>(null);
  const made = useFile(asked, view);
  const use = IN_WORDS[view.goes?.for ?? 'office'];
  return (
    <>
      <Menu
        label="Export"
        trigger={
          <Button look="quiet" busy={made.isPending}>
            <Download size={14} /> Export
          </Button>
        }
        items={[
          { label: `This table as a workbook (XLSX)${use}`, onSelect: () => made.mutate('xlsx') },
          { label: `This table as CSV${use}`, onSelect: () => made.mutate('csv') },
          ...(BY_NUMBER.includes(view.rows)
            ? [{ label: 'To be changed and brought back (XLSX)', onSelect: () => made.mutate('back') }]
            : []),
          { label: 'What the table is for, and its day …', onSelect: () => setOpen('goes') },
          { label: 'Labels, cards and call sheets …', onSelect: () => setOpen('people') },
        ]}
      />
      {open === 'goes' && <GoesDialog {...props} made={made} onClose={() => setOpen(null)} />}
      {open === 'people' && (
        <ExportDialog
          selection={{ kind: 'asked', asked: whom(asked, view), except: [] }}
          people={
            props.single ? counted(total, rowWords(view.rows).one, rowWords(view.rows).many) : 'everyone who matches'
          }
          onClose={() => setOpen(null)}
        />
      )}
    </>
  );
}

/** A row of these is of one supporter, by whose number it comes back. */
const BY_NUMBER: readonly View['rows'][] = ['person', 'organization', 'household', 'supporter'];

const useFile = (asked: Asked, view: View) =>
  useWrite(async (wanted: 'csv' | 'xlsx' | 'back') => {
    toast.message('Making the file …');
    const back = wanted === 'back';
    const as = back ? 'xlsx' : wanted;
    download(await callFile(fileOfSegment, { body: { ...asked, view, as, back } }), `segment.${as}`);
  });

/** What a table is for: whom its file may reach, on which day, and who is held back from it; kept with the view. */
function GoesDialog(props: {
  asked: Asked;
  view: View;
  onView: (view: View) => void;
  made: ReturnType<typeof useFile>;
  onClose: () => void;
}) {
  const { asked, view, onView, made } = props;
  const goes = view.goes ?? FOR_OFFICE;
  const put = (part: Partial<Goes>): void => onView({ ...view, goes: { ...goes, ...part } });
  const { data: check, error } = useQuery(ask(checkTable, { body: { ...asked, view } }));
  return (
    <Dialog open onClose={props.onClose} title="What the table is for" size="wide">
      <div className="grid grid-cols-2 gap-3">
        <UseFields
          use={goes.for}
          purpose={goes.purpose}
          onUse={(use) => put({ for: use })}
          onPurpose={(purpose) => put({ purpose })}
        />
        <Field label="Addresses of the day">
          {(attributes) => (
            <DateField
              {...attributes}
              value={goes.on ?? ''}
              placeholder="the day it is made"
              onChange={(on) => put({ on: on === '' ? null : on })}
            />
          )}
        </Field>
        <Field label="Days in a CSV">
          {(attributes) => (
            <Choice
              {...attributes}
              value={goes.days}
              onChange={(days) => put({ days: days as Goes['days'] })}
              options={[
                { value: 'plain', label: 'as 2026-03-14, which every program reads' },
                { value: 'written', label: 'as we write them' },
              ]}
            />
          )}
        </Field>
      </div>
      {error ? <Trouble error={error} /> : <HeldBackList check={check} />}
      <p className="mt-2 text-[13px] text-faded">
        The columns ‘Addressee’, the salutations and the addresses that are used go by this. A workbook has those held
        back on a sheet of its own. It is kept with the view: a pin makes the same file again.
      </p>
      <DialogActions>
        <Button onClick={props.onClose}>Done</Button>
        <Button busy={made.isPending} onClick={() => made.mutate('csv')}>
          CSV
        </Button>
        <Button look="main" busy={made.isPending} onClick={() => made.mutate('xlsx')}>
          Workbook (XLSX)
        </Button>
      </DialogActions>
    </Dialog>
  );
}
