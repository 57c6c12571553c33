import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { emptyTrash, getTrash } from '@tallystick/contract/acts';
import { ask, call } from '../ui/api.ts';
import { Button } from '../ui/controls.tsx';
import { useFormats, useMay } from '../ui/organization.tsx';
import { Dialog, DialogActions } from '../ui/overlays.tsx';
import { useWrite } from '../ui/useWrite.ts';

/** Emptying the trash, with what it means in figures before it is done: it is one of the few things without Undo. */
export function EmptyTrash() {
  const mayAdmin = useMay(emptyTrash);
  const { count, counted, money } = useFormats();
  const [open, setOpen] = useState(false);
  const trash = useQuery(ask(getTrash));
  const figures = trash.data;
  const empty = useWrite((records: number) => call(emptyTrash, { body: { records } }), {
    say: (done) => `Erased ${counted(done.records, 'record')}; ${counted(done.gifts, 'gift is', 'gifts are')} kept`,
    then: () => setOpen(false),
  });
  if (!mayAdmin || !figures || figures.records === 0) return null;
  return (
    <>
      <Button look="danger" onClick={() => setOpen(true)}>
        Empty the trash
      </Button>
      <Dialog
        open={open}
        onClose={() => setOpen(false)}
        title={`Erase ${counted(figures.records, 'record')} for good?`}
      >
        <p>
          Names, addresses, notes, documents and the history of {counted(figures.records, 'record')} are erased. This
          cannot be undone.
        </p>
        <p className="mt-2">
          {count(figures.withGifts)} of them gave {counted(figures.gifts, 'gift')} of {money(figures.cents)}. Those
          gifts and their receipts stay in every total, under “Removed supporter”.
        </p>
        <p className="mt-2">
          Where they are named in summaries of changes, in notes on their gifts or in notes and tasks about others, “a
          removed supporter” stands in their place. What is printed on an issued receipt stays, since its number stands
          in the books; so do tributes that others gave in their name, files and sheets that are not brought in yet, and
          the access log, which nobody can change. A mailbox that refused e-mail goes on refusing it; its address itself
          is erased.
        </p>
        <DialogActions>
          <Button onClick={() => setOpen(false)}>Keep them</Button>
          <Button look="danger" busy={empty.isPending} onClick={() => empty.mutate(figures.records)}>
            Erase {counted(figures.records, 'record')}
          </Button>
        </DialogActions>
      </Dialog>
    </>
  );
}
