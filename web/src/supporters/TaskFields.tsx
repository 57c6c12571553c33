import { z } from 'zod';
import { Field } from '../ui/controls.tsx';
import { DayField, said, TextField, typedDay } from '../ui/form/index.ts';
import type { Entry } from '../ui/form/index.ts';
import { ColleagueSelect } from './ColleagueSelect.tsx';

/** A task as it is typed about many, and as it is read. */
export const TASK_FOR_MANY = z.object({
  title: said('Say what is to be done.'),
  due: typedDay,
  ownerId: z.number().nullable(),
});
type Typed = { title: string; due: string; ownerId: number | null };

/** Who does it: a colleague, or nobody yet. */
export function OwnerField({
  entry,
}: {
  entry: { typed: { ownerId: number | null }; put: (part: { ownerId: number | null }) => void };
}) {
  return (
    <Field label="Who">
      {(attributes) => (
        <ColleagueSelect {...attributes} value={entry.typed.ownerId} onChange={(ownerId) => entry.put({ ownerId })} />
      )}
    </Field>
  );
}

/** What is to be done, until when, and by whom. */
export function TaskFields({ entry }: { entry: Pick<Entry<Typed>, 'typed' | 'put' | 'fault'> }) {
  return (
    <>
      <TextField entry={entry} name="title" label="What is to be done" autoFocus />
      <div className="grid grid-cols-2 gap-3">
        <DayField entry={entry} name="due" label="Due" />
        <OwnerField entry={entry} />
      </div>
    </>
  );
}
