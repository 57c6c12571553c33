import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { FIELD_KINDS } from '@tallystick/core/fields';
import type { FieldKind } from '@tallystick/core/fields';
import { createField, deleteField, listFields, updateField } from '@tallystick/contract/fields';
import type { CustomField } from '@tallystick/contract/fields';
import { ask, call } from '../ui/api.ts';
import { Choice } from '../ui/choice/index.tsx';
import { Button, Empty, Field, Heading, Input, TextArea } from '../ui/controls.tsx';
import { ListTable } from '../ui/ListTable.tsx';
import { useMay } from '../ui/organization.tsx';
import { Dialog, DialogActions } from '../ui/overlays.tsx';
import { useWrite } from '../ui/useWrite.ts';

const FRESH = { about: 'supporter' as CustomField['about'], name: '', kind: 'text' as FieldKind, choices: '' };
const listed = (text: string): string[] =>
  text
    .split('\n')
    .map((line) => line.trim())
    .filter(Boolean);

/** The fields that the organisation made for itself. */
export default function FieldsPage() {
  const { data } = useQuery(ask(listFields));
  const mayAdmin = useMay(createField);
  const [changing, setChanging] = useState<CustomField | 'new' | null>(null);
  const remove = useWrite(
    (field: CustomField) => call(deleteField, { params: { id: field.id }, query: { values: field.used } }),
    { say: () => 'Deleted; Undo brings it back' },
  );
  return (
    <div className="overflow-auto">
      <Heading title="Fields" facts="Used in records, lists, segments, letters and exports like any other">
        {mayAdmin && (
          <Button look="main" onClick={() => setChanging('new')}>
            Make a field
          </Button>
        )}
      </Heading>
      {data?.items.length === 0 ? (
        <Empty title="No field of your own yet">
          An administrator makes fields for what only your organization keeps.
        </Empty>
      ) : (
        <ListTable
          label="Fields"
          headings={['Name', 'Of', 'Kind', 'Choices', 'Filled in', '']}
          rightAligned={[4, 5]}
          rows={(data?.items ?? []).map((field) => ({
            id: field.id,
            cells: [
              field.name,
              field.about === 'supporter' ? 'supporters' : 'gifts',
              FIELD_KINDS[field.kind],
              field.choices.join(', '),
              field.used.toLocaleString(),
              mayAdmin && (
                <>
                  <Button look="quiet" className="h-7 px-2" onClick={() => setChanging(field)}>
                    Change
                  </Button>
                  <Button look="quiet" className="h-7 px-2" onClick={() => remove.mutate(field)}>
                    Delete {field.used > 0 && `with ${field.used.toLocaleString()} values`}
                  </Button>
                </>
              ),
            ],
          }))}
        />
      )}
      {changing && <FieldDialog field={changing === 'new' ? null : changing} onClose={() => setChanging(null)} />}
    </div>
  );
}

function FieldDialog({ field, onClose }: { field: CustomField | null; onClose: () => void }) {
  const [draft, setDraft] = useState(field ? { ...field, choices: field.choices.join('\n') } : FRESH);
  const { about, name, kind } = draft;
  const choices = listed(draft.choices);
  const save = useWrite(
    async () => {
      if (field) await call(updateField, { params: { id: field.id }, body: { version: field.version, name, choices } });
      else await call(createField, { body: { about, name, kind, choices } });
    },
    { then: onClose },
  );
  return (
    <Dialog open onClose={onClose} title={field ? `Change the field ${field.name}` : 'Make a field'}>
      <form
        className="space-y-3"
        onSubmit={(event) => {
          event.preventDefault();
          save.mutate(undefined);
        }}
      >
        <Field label="Name">
          {(attributes) => (
            <Input
              {...attributes}
              autoFocus
              value={name}
              onChange={(event) => setDraft({ ...draft, name: event.target.value })}
            />
          )}
        </Field>
        {!field && (
          <div className="grid grid-cols-2 gap-3">
            <Field label="Of">
              {(attributes) => (
                <Choice
                  {...attributes}
                  value={about}
                  onChange={(picked) => setDraft({ ...draft, about: picked as typeof about })}
                  options={[
                    { value: 'supporter', label: 'supporters' },
                    { value: 'gift', label: 'gifts' },
                  ]}
                />
              )}
            </Field>
            <Field label="Kind" hint="It stays once made.">
              {(attributes) => (
                <Choice
                  {...attributes}
                  value={kind}
                  onChange={(picked) => setDraft({ ...draft, kind: picked as FieldKind })}
                  options={Object.entries(FIELD_KINDS).map(([value, word]) => ({ value: value, label: word }))}
                />
              )}
            </Field>
          </div>
        )}
        {(kind === 'one' || kind === 'many') && (
          <Field label="Choices, one a line">
            {(attributes) => (
              <TextArea
                {...attributes}
                rows={6}
                value={draft.choices}
                onChange={(event) => setDraft({ ...draft, choices: event.target.value })}
              />
            )}
          </Field>
        )}
        <DialogActions>
          <Button onClick={onClose}>Cancel</Button>
          <Button look="main" type="submit" disabled={save.isPending || name.trim() === ''}>
            {field ? 'Save' : 'Make the field'}
          </Button>
        </DialogActions>
      </form>
    </Dialog>
  );
}
