import { useMutation } from '@tanstack/react-query';
import { Upload } from 'lucide-react';
import { useMemo, useRef, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { listIntakes, uploadIntake } from '@tallystick/contract/intake';
import type { Intake } from '@tallystick/contract/intake';
import { sendFile } from '../ui/api.ts';
import { usePagesOf } from '../ui/usePages.ts';
import { Button, Empty, StateWord } from '../ui/controls.tsx';
import { ListPage } from '../ui/ListPage.tsx';
import { useFormats, useMay } from '../ui/organization.tsx';
import { figures, wordsOf } from '../ui/table/columns.ts';
import type { Column } from '../ui/table/columns.ts';

/** The files that were brought in, and the place to bring in another. */
export default function IntakesPage() {
  const { moment, count } = useFormats();
  const list = usePagesOf(listIntakes);
  const { pick, above } = useUpload();
  const columns = useMemo(
    (): Column<Intake>[] => [
      {
        ...{ id: 'file', title: 'File', width: 360, grow: true, by: (intake) => intake.name },
        cell: (intake) => (
          <Link className="font-serif text-[15px] hover:underline" to={`/intake/${intake.id}`}>
            {intake.name}
          </Link>
        ),
      },
      figures('rows', 'Rows', 100, (intake) => intake.rows, count),
      wordsOf('by', 'Brought by', 180, (intake) => intake.by),
      { id: 'at', title: 'When', width: 200, by: (intake) => intake.at, cell: (intake) => moment(intake.at) },
      {
        ...{ id: 'state', title: 'State', width: 160, by: (intake) => intake.state },
        cell: (intake) =>
          intake.state === 'posted' ? (
            <StateWord tone="settled">brought in</StateWord>
          ) : (
            <StateWord tone="look">waiting for you</StateWord>
          ),
      },
    ],
    [moment, count],
  );
  return (
    <ListPage
      title="Intake"
      facts="Files of people and gifts. Nothing is written until you say so, and all of it can be undone."
      acts={pick}
      above={above}
      name="intakes"
      label="Intakes"
      columns={columns}
      list={list}
      empty={
        <Empty title="No file yet">
          The giving portal&apos;s export, a guest list, a call sheet: bring in the first.
        </Empty>
      }
    />
  );
}

/** The two ways to bring in a file, for whoever may: picked by a button, or dropped. */
function useUpload() {
  const navigate = useNavigate();
  const mayBring = useMay(uploadIntake);
  const [over, setOver] = useState(false);
  const input = useRef<HTMLInputElement>(null);
  const upload = useMutation({
    mutationFn: (file: File) => sendFile(uploadIntake, { name: file.name }, file),
    onSuccess: (intake) => navigate(`/intake/${intake.id}`),
  });
  const take = (files: FileList | null): void => {
    const file = files?.[0];
    if (file) upload.mutate(file);
  };
  if (!mayBring) return { pick: null, above: null };
  const pick = (
    <>
      <Button look="main" busy={upload.isPending} onClick={() => input.current?.click()}>
        <Upload size={15} /> Bring in a file
      </Button>
      <input
        ref={input}
        type="file"
        accept=".csv,.txt,.tsv,text/csv"
        className="sr-only"
        aria-label="File to bring in"
        tabIndex={-1}
        onChange={(event) => take(event.target.files)}
      />
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
        : 'Drop a CSV file here. Its encoding, separator and columns are found out; you see every row before anything is written.'}
      {upload.isError && (
        <p role="alert" className="mt-1 text-madder">
          ▲ {upload.error.message}
        </p>
      )}
    </div>
  );
  return { pick, above };
}
