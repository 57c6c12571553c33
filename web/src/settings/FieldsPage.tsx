import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { FIELD_KINDS } from '@tallystick/core/fields';
import { createField, deleteField, listFields } from '@tallystick/contract/fields';
import type { CustomField } from '@tallystick/contract/fields';
import { ask, call } from '../ui/api.ts';
import { Button, Empty, Heading } from '../ui/controls.tsx';
import { figures, wordsOf } from '../ui/table/columns.ts';
import type { Column } from '../ui/table/columns.ts';
import { ShortTable } from '../ui/table/ShortTable.tsx';
import { useFormats, useMay } from '../ui/organization.tsx';
import { useWrite } from '../ui/useWrite.ts';
import { FieldDialog } from './FieldDialog.tsx';

/** The fields that the organisation made for itself. */
export default function FieldsPage() {
  const { data } = useQuery(ask(listFields));
  const mayAdmin = useMay(createField);
  const { count } = useFormats();
  const [changing, setChanging] = useState<CustomField | 'new' | null>(null);
  const remove = useWrite(
    (field: CustomField) => call(deleteField, { params: { id: field.id }, query: { values: field.used } }),
    { say: () => 'Deleted; Undo brings it back' },
  );
  const columns: Column<CustomField & { used: number }>[] = [
    wordsOf('name', 'Name', 200, (field) => field.name),
    {
      ...{ id: 'of', title: 'Of', width: 110, by: (field) => field.about },
      cell: (field) => (field.about === 'supporter' ? 'supporters' : 'gifts'),
    },
    {
      ...{ id: 'kind', title: 'Kind', width: 150, by: (field) => FIELD_KINDS[field.kind] },
      cell: (field) => FIELD_KINDS[field.kind],
    },
    { id: 'choices', title: 'Choices', width: 240, grow: true, cell: (field) => field.choices.join(', ') },
    figures('used', 'Filled in', 96, (field) => field.used, count),
    {
      ...{ id: 'acts', title: '', width: 300, align: 'right' },
      cell: (field) =>
        mayAdmin && (
          <>
            <Button
              look="quiet"
              className="h-7 px-2"
              aria-label={`Change ${field.name}`}
              onClick={() => setChanging(field)}
            >
              Change
            </Button>
            <Button look="quiet" className="h-7 px-2" onClick={() => remove.mutate(field)}>
              Delete {field.used > 0 && `with ${field.used.toLocaleString()} values`}
              <span className="sr-only">{field.name}</span>
            </Button>
          </>
        ),
    },
  ];
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
        <ShortTable name="fields" label="Fields" columns={columns} rows={data?.items ?? []} />
      )}
      {changing && <FieldDialog field={changing === 'new' ? null : changing} onClose={() => setChanging(null)} />}
    </div>
  );
}
