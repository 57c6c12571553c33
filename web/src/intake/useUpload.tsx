import { useMutation } from '@tanstack/react-query';
import { ClipboardPaste, Upload } from 'lucide-react';
import { useRef, useState } from 'react';
import type { ReactNode } from 'react';
import { useNavigate } from 'react-router';
import { uploadIntake } from '@tallystick/contract/intake';
import { Refused, sendFile } from '../ui/api.ts';
import { Button, TextArea } from '../ui/controls.tsx';
import { Dialog, DialogActions } from '../ui/overlays.tsx';
import { useFormats, useMay } from '../ui/organization.tsx';

interface Wanted {
  name: string;
  file: Blob;
  sheet?: string;
}
interface Sheet {
  name: string;
  rows: number;
}

/** The sheets that a workbook was asked about; none for any other answer. */
const sheetsIn = (error: unknown): Sheet[] =>
  error instanceof Refused && error.code === 'which-sheet' && Array.isArray(error.details)
    ? (error.details as Sheet[])
    : [];

/** The ways to bring data in, for whoever may: a file that is picked or dropped, and cells that are pasted. */
export function useUpload(): { pick: ReactNode; above: ReactNode } {
  const navigate = useNavigate();
  const mayBring = useMay(uploadIntake);
  const { counted } = useFormats();
  const [over, setOver] = useState(false);
  const [pasting, setPasting] = useState(false);
  const [pasted, setPasted] = useState('');
  const input = useRef<HTMLInputElement>(null);
  const upload = useMutation({
    mutationFn: ({ name, file, sheet }: Wanted) => sendFile(uploadIntake, { name, ...(sheet ? { sheet } : {}) }, file),
    onSuccess: (intake) => navigate(`/intake/${intake.id}`),
  });
  const take = (files: FileList | null): void => {
    const file = files?.[0];
    if (file) upload.mutate({ name: file.name, file });
  };
  if (!mayBring) return { pick: null, above: null };
  const sheets = sheetsIn(upload.error);
  const pick = (
    <>
      <Button onClick={() => setPasting(true)}>
        <ClipboardPaste size={15} /> Paste cells
      </Button>
      <Button look="main" busy={upload.isPending} onClick={() => input.current?.click()}>
        <Upload size={15} /> Bring in a file
      </Button>
      <input
        ref={input}
        type="file"
        accept=".csv,.txt,.tsv,.xlsx,.vcf,.json,.jsonl,.ndjson,text/csv"
        className="sr-only"
        aria-label="File to bring in"
        tabIndex={-1}
        onChange={(event) => {
          take(event.target.files);
          // The same file may be picked again once it was mended.
          event.target.value = '';
        }}
      />
      <Dialog open={pasting} title="Paste cells" size="wide" onClose={() => setPasting(false)}>
        <TextArea
          aria-label="Cells"
          rows={12}
          className="font-mono text-[13px]"
          placeholder="Copy the cells in your spreadsheet, headings and all, and paste them here."
          value={pasted}
          onChange={(event) => setPasted(event.target.value)}
        />
        <DialogActions>
          <Button onClick={() => setPasting(false)}>Cancel</Button>
          <Button
            look="main"
            disabled={pasted.trim() === ''}
            busy={upload.isPending}
            onClick={() => upload.mutate({ name: 'Pasted cells', file: new Blob([pasted]) })}
          >
            Bring them in
          </Button>
        </DialogActions>
      </Dialog>
      <Dialog open={sheets.length > 0} title="Which sheet?" onClose={() => upload.reset()}>
        <p className="text-faded">Several sheets of the workbook hold something. One is brought in at a time.</p>
        <ul className="mt-2 flex flex-col gap-1.5">
          {sheets.map(({ name, rows }) => (
            <li key={name}>
              <Button
                busy={upload.isPending}
                onClick={() => upload.variables && upload.mutate({ ...upload.variables, sheet: name })}
              >
                {name} <span className="text-faded">{counted(rows, 'row')}</span>
              </Button>
            </li>
          ))}
        </ul>
      </Dialog>
    </>
  );
  const above = (
    <div
      onDragOver={(event) => {
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(event) => {
        event.preventDefault();
        setOver(false);
        take(event.dataTransfer.files);
      }}
      className={`mx-5 my-3 rounded border border-dashed px-5 py-4 text-center ${over ? 'border-slate bg-chosen' : 'border-rule text-faded'}`}
    >
      {upload.isPending
        ? 'Reading the file …'
        : 'Drop a file here: CSV or other delimited text, an XLSX workbook, vCards, or JSON lines. You see every row before anything is written.'}
      {upload.isError && sheets.length === 0 && (
        <p role="alert" className="mt-1 text-madder">
          ▲ {upload.error.message}
        </p>
      )}
    </div>
  );
  return { pick, above };
}
