import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { toast } from 'sonner';
import { checkExport, exportSupporters } from '@tallystick/contract/acts';
import { FILE_USES } from '@tallystick/core/wishes';
import type { FileUse as Use } from '@tallystick/core/wishes';
import type { HeldBack, Selection, EXPORT_FILES } from '@tallystick/contract/acts';
import { ask, callFile } from '../ui/api.ts';
import { download } from '../ui/download.ts';
import { Checkbox } from '../ui/checks.tsx';
import { Choice } from '../ui/choice/index.tsx';
import { Button, Field, Trouble } from '../ui/controls.tsx';
import { useFormats } from '../ui/organization.tsx';
import { Dialog, DialogActions } from '../ui/overlays.tsx';
import { useWrite } from '../ui/useWrite.ts';

const USES: Record<Use, string> = {
  office: 'To look at: everyone, with their wishes',
  mail: 'To write to them by post',
  email: 'To write to them by e-mail',
  call: 'To call them',
};
type Kind = (typeof EXPORT_FILES)[number];
/** The files that there are for each use, the last the one that is offered most. */
const PLAIN: [Kind, string][] = [
  ['csv', 'CSV'],
  ['vcf', 'Address cards (vCard)'],
  ['xlsx', 'Workbook (XLSX)'],
];
const FILES: Record<Use, [Kind, string][]> = {
  ...{ office: PLAIN, email: PLAIN },
  mail: [['labels10', 'Labels, 10 a page'], ['labels30', 'Labels, 30 a page'], ...PLAIN],
  call: [['calls', 'Call sheet (PDF)'], ['callbook', 'Call sheet (XLSX)'], ...PLAIN],
};
const ENDINGS: Record<Kind, string> = {
  ...{ csv: 'csv', xlsx: 'xlsx', vcf: 'vcf', labels30: 'pdf', labels10: 'pdf', calls: 'pdf', callbook: 'xlsx' },
};
const NAMES: Partial<Record<Kind, string>> = {
  labels30: 'labels',
  labels10: 'labels',
  calls: 'calls',
  callbook: 'calls',
};

/** How many go into a file, and who is held back from it and why; before it is known, that it is counted. */
export function HeldBackList({ check }: { check: HeldBack | undefined }) {
  const { count } = useFormats();
  const { asked = 0, held = 0 } = check ?? {};
  const kept = asked - held;
  return (
    <>
      <p className="mt-3" role="status">
        {check === undefined
          ? 'Counting …'
          : `${count(kept)} of ${count(check.asked)} ${kept === 1 ? 'goes' : 'go'} into the file${held > 0 ? `; ${count(held)} ${held === 1 ? 'is' : 'are'} held back:` : '.'}`}
      </p>
      {check && check.some.length > 0 && (
        <ul aria-label="Held back" tabIndex={0} className="mt-2 max-h-56 overflow-auto border border-rule bg-sheet">
          {check.some.map((one) => (
            <li key={one.supporterId} className="flex gap-3 border-b border-rule px-3 py-1 last:border-0">
              <span className="font-serif">{one.name}</span>
              <span className="text-faded">{one.number}</span>
              <span className="ml-auto text-faded">{one.reason}</span>
            </li>
          ))}
          {check.held > check.some.length && (
            <li className="px-3 py-1 text-faded">and {count(check.held - check.some.length)} more</li>
          )}
        </ul>
      )}
    </>
  );
}

/** What a file is for: whom it is to reach by what, and with what. */
export function UseFields(props: {
  use: Use;
  purpose: 'appeal' | 'news';
  onUse: (use: Use) => void;
  onPurpose: (purpose: 'appeal' | 'news') => void;
}) {
  const { use, purpose } = props;
  return (
    <>
      <Field label="What for">
        {(attributes) => (
          <Choice
            {...attributes}
            value={use}
            onChange={(picked) => props.onUse(picked as Use)}
            options={FILE_USES.map((one) => ({ value: one, label: USES[one] }))}
          />
        )}
      </Field>
      {use !== 'office' && (
        <Field label="With">
          {(attributes) => (
            <Choice
              {...attributes}
              value={purpose}
              onChange={(picked) => props.onPurpose(picked as typeof purpose)}
              options={[
                { value: 'appeal', label: 'an appeal, which asks for a gift' },
                { value: 'news', label: 'news, which asks for nothing' },
              ]}
            />
          )}
        </Field>
      )}
    </>
  );
}

/** Asks what a file of supporters is for, and tells before it is made whom it leaves out and why. */
export function ExportDialog(props: { selection: Selection; people: string; begin?: Use; onClose: () => void }) {
  const { selection, people, onClose } = props;
  const [use, setUse] = useState<Use>(props.begin ?? 'office');
  const [purpose, setPurpose] = useState<'appeal' | 'news'>('appeal');
  const [back, setBack] = useState(false);
  const body = { selection, for: use, purpose };
  const { data: check, error } = useQuery(ask(checkExport, { body }));
  const made = useWrite(async (as: Kind) => {
    toast.message('Making the file …');
    const file = await callFile(exportSupporters, { body: { ...body, as, back: back && use === 'office' } });
    download(file, `${NAMES[as] ?? 'supporters'}.${ENDINGS[as]}`);
    onClose();
  });
  const kept = check ? check.asked - check.held : null;
  return (
    <Dialog open onClose={onClose} title={`A file of ${people}`} size="wide">
      <div className="grid grid-cols-2 gap-3">
        <UseFields use={use} purpose={purpose} onUse={setUse} onPurpose={setPurpose} />
      </div>
      {error && <Trouble error={error} />}
      <HeldBackList check={check} />
      {use === 'office' && (
        <div className="mt-3">
          <Checkbox label="To be changed and brought back" checked={back} onChange={setBack} />
          {back && (
            <p className="mt-1 text-[13px] text-faded">
              Change the cells in a spreadsheet and leave the numbers as they are. Under Intake only what was changed is
              taken; what was changed here meanwhile is shown beside it.
            </p>
          )}
        </div>
      )}
      {use !== 'office' && (
        <p className="mt-2 text-[13px] text-faded">
          Everyone is given by the one way that is used today. A workbook has those held back on a sheet of its own.
        </p>
      )}
      <DialogActions>
        <Button onClick={onClose}>Not now</Button>
        {FILES[use].map(([as, name]) => (
          <Button
            key={as}
            look={as === 'xlsx' ? 'main' : undefined}
            disabled={!kept || made.isPending}
            onClick={() => made.mutate(as)}
          >
            {name}
          </Button>
        ))}
      </DialogActions>
    </Dialog>
  );
}
