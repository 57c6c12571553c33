import { useMutation } from '@tanstack/react-query';
import { Upload } from 'lucide-react';
import { useRef, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { listIntakes, uploadIntake } from '@tallystick/contract/intake';
import { sendFile } from '../ui/api.ts';
import { More } from '../ui/More.tsx';
import { usePagesOf } from '../ui/usePages.ts';
import { Button, Empty, Heading, StateWord, Trouble } from '../ui/controls.tsx';
import { ListTable } from '../ui/ListTable.tsx';
import { useFormats, useMay } from '../ui/organization.tsx';

export default function IntakesPage() {
  const navigate = useNavigate();
  const { moment, count } = useFormats();
  const mayBring = useMay(uploadIntake);
  const [over, setOver] = useState(false);
  const input = useRef<HTMLInputElement>(null);
  const list = usePagesOf(listIntakes);
  const upload = useMutation({
    mutationFn: (file: File) => sendFile(uploadIntake, { name: file.name }, file),
    onSuccess: (intake) => navigate(`/intake/${intake.id}`),
  });
  const take = (files: FileList | null): void => {
    const file = files?.[0];
    if (file) upload.mutate(file);
  };
  if (list.error && !list.first) return <Trouble error={list.error} />;
  return (
    <>
      <Heading
        title="Intake"
        facts="Files of people and gifts. Nothing is written until you say so, and all of it can be undone."
      >
        {mayBring && (
          <Button look="main" busy={upload.isPending} onClick={() => input.current?.click()}>
            <Upload size={15} /> Bring in a file
          </Button>
        )}
        <input
          ref={input}
          type="file"
          accept=".csv,.txt,.tsv,text/csv"
          className="sr-only"
          aria-label="File to bring in"
          tabIndex={-1}
          onChange={(event) => take(event.target.files)}
        />
      </Heading>
      {mayBring && (
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
      )}
      {list.first && list.total === 0 ? (
        <Empty title="No file yet">
          The giving portal&apos;s export, a guest list, a call sheet: bring in the first.
        </Empty>
      ) : (
        <ListTable
          label="Intakes"
          headings={['File', 'Rows', 'Brought by', 'When', 'State']}
          rightAligned={[1]}
          rows={list.rows.map((intake) => ({
            id: intake.id,
            cells: [
              <Link className="font-serif text-[15px] hover:underline" to={`/intake/${intake.id}`}>
                {intake.name}
              </Link>,
              count(intake.rows),
              intake.by,
              moment(intake.at),
              intake.state === 'posted' ? (
                <StateWord tone="settled">brought in</StateWord>
              ) : (
                <StateWord tone="look">waiting for you</StateWord>
              ),
            ],
          }))}
        />
      )}
      <More list={list} />
    </>
  );
}
