import { listRuns, printFile } from '@tallystick/contract/thanks';
import { linkTo } from '../ui/api.ts';
import { More } from '../ui/More.tsx';
import { usePagesOf } from '../ui/usePages.ts';
import { Empty, Heading, StateWord, Trouble } from '../ui/controls.tsx';
import { ListTable } from '../ui/ListTable.tsx';
import { ResumeSending } from '../ui/ResumeSending.tsx';
import { useFormats } from '../ui/organization.tsx';

export default function IssuedPage() {
  const { moment, count } = useFormats();
  const list = usePagesOf(listRuns);
  if (list.error && !list.first) return <Trouble error={list.error} />;
  return (
    <>
      <Heading title="Receipts issued" facts="Every number once, with no gaps" />
      {list.first && list.total === 0 ? (
        <Empty title="None issued yet">
          Issue receipts under Thanks; each issue is listed here with its numbers and its print file.
        </Empty>
      ) : (
        <ListTable
          label="Issues of receipts"
          headings={['Numbers', 'When', 'By', 'Letter', 'Receipts', 'Reached', 'Waiting', 'Not reached', 'By post']}
          rightAligned={[4, 5, 6, 7, 8]}
          rows={list.rows.map((run) => ({
            id: run.id,
            cells: [
              <span className="font-serif text-[15px]">
                {run.first === run.last ? run.first : `${run.first} to ${run.last}`}
              </span>,
              moment(run.at),
              run.by,
              run.letter,
              count(run.count),
              count(run.reached),
              run.stopped ? (
                <>
                  {count(run.waiting)} <ResumeSending kind="receipt" id={run.id} />
                </>
              ) : (
                count(run.waiting)
              ),
              run.notReached > 0 ? <StateWord tone="wrong">{count(run.notReached)}</StateWord> : '–',
              run.printed > 0 ? (
                <a
                  className="text-slate hover:underline"
                  target="_blank"
                  rel="noreferrer"
                  href={linkTo(printFile, { id: run.id })}
                >
                  print file, {count(run.printed)}
                </a>
              ) : (
                '–'
              ),
            ],
          }))}
        />
      )}
      <More list={list} />
    </>
  );
}
