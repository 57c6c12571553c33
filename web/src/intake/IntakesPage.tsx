import { useMemo } from 'react';
import { Link } from 'react-router';
import { listIntakes } from '@tallystick/contract/intake';
import type { Intake } from '@tallystick/contract/intake';
import { usePagesOf } from '../ui/usePages.ts';
import { Empty, StateWord } from '../ui/controls.tsx';
import { ListPage } from '../ui/ListPage.tsx';
import { useFormats } from '../ui/organization.tsx';
import { figures, wordsOf } from '../ui/table/columns.ts';
import type { Column } from '../ui/table/columns.ts';
import { useUpload } from './useUpload.tsx';

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
      facts={
        <>
          Nothing is written until you say so, and all of it can be undone.{' '}
          <Link className="text-slate underline" to="/intake/guide">
            What a file may hold
          </Link>
          {' · '}
          <Link className="text-slate underline" to="/intake/feeds">
            What comes by itself
          </Link>
        </>
      }
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
