import { useQuery } from '@tanstack/react-query';
import { useContext, useEffect, useRef, useState } from 'react';
import type { FormEvent } from 'react';
import { Controller, useForm } from 'react-hook-form';
import { toast } from 'sonner';
import { readCard } from '@tallystick/contract/acts';
import { listFields } from '@tallystick/contract/fields';
import { ORGANIZATION_KINDS } from '@tallystick/core/supporters';
import { draftOf, SupporterDraft } from '@tallystick/contract/supporters';
import type { Supporter } from '@tallystick/contract/supporters';
import { ask, call, messageOf, Refused } from '../ui/api.ts';
import { Choice, Choices, optionsOfNames } from '../ui/choice/index.tsx';
import { Button, Field } from '../ui/controls.tsx';
import { useHere } from '../ui/organization.tsx';
import { Dialog, DialogActions } from '../ui/overlays.tsx';
import { AddressingFields } from './AddressingFields.tsx';
import { useSaveSupporter } from './api.ts';
import { ConflictPanel } from './ConflictPanel.tsx';
import { FieldInput } from '../ui/FieldInput.tsx';
import { forgetDraft, keepDraft, keptDraft } from '../ui/form/drafts.ts';
import { DialogContext, useUnsaved } from '../ui/form/unsaved.ts';
import { HomeFields } from './HomeFields.tsx';
import { LooksAlike } from './LooksAlike.tsx';
import { NameFields } from './NameFields.tsx';
import { checked, draftIn, EMPTY, formOf, KEPT } from './draft.ts';
import type { Draft, DraftForm } from './draft.ts';
import { useChoices } from '../ui/useChoices.ts';
import { useNotice } from './useNotice.ts';
import { Ways } from './Ways.tsx';
import { WishFields } from './WishFields.tsx';
import { typed } from '@tallystick/core/fields';
import { KIND_NAMES, SUPPORTER_KINDS } from '@tallystick/core/supporters';

/** Where typing begins. */
export type Begin = 'name' | 'tags';

/** Adding or editing a supporter, in a dialog. */
export function SupporterDialog(props: {
  open: boolean;
  supporter: Supporter | null;
  begin?: Begin;
  onClose: () => void;
  onDone: (id: number) => void;
}) {
  return (
    <Dialog
      open={props.open}
      onClose={props.onClose}
      title={props.supporter ? `Edit ${props.supporter.name}` : 'Add a supporter'}
      size="wide"
    >
      <SupporterForm {...props} />
    </Dialog>
  );
}

function SupporterForm(props: {
  supporter: Supporter | null;
  begin?: Begin;
  onClose: () => void;
  onDone: (id: number) => void;
}) {
  const { begin = 'name' } = props;
  /** The record that the edit began from; after a conflict was settled, the newer one. */
  const [base, setBase] = useState(props.supporter);
  const [kept] = useState(() => (props.supporter ? null : keptDraft<Draft>(KEPT)));
  const form = useForm<Draft>({
    defaultValues: base ? formOf(draftOf(base)) : (kept ?? EMPTY),
    resolver: ((values: Draft, context: unknown, options: never) =>
      checked(draftIn(values), context, options)) as never,
  });
  const [done, setDone] = useState(false);
  const forget = (): void => forgetDraft(KEPT);
  const letGo = useUnsaved((form.formState.isDirty || kept !== null) && !done, forget, base === null);
  const save = useSaveSupporter(base, (id) => {
    forget();
    letGo();
    setDone(true);
    props.onDone(id);
  });
  const { watch, handleSubmit } = form;
  const dialog = useContext(DialogContext);
  const notice = useNotice(form, base?.id ?? null);
  const isNew = base === null;
  useEffect(() => {
    if (!isNew) return;
    const watched = form.watch((draft) => keepDraft(KEPT, draft));
    return () => watched.unsubscribe();
  }, [form, isNew]);
  /** Reads a whole name that was typed and is not split yet; false where that failed. */
  const readName = useRef<() => Promise<boolean>>(() => Promise.resolve(true));
  const submit = async (event: FormEvent): Promise<void> => {
    event.preventDefault();
    if (await readName.current()) await handleSubmit(() => save.mutate(draftIn(form.getValues())))();
  };
  const refused = save.error instanceof Refused ? save.error : null;
  const stale = base && refused?.code === 'stale' ? (refused.details as { current: Supporter }) : null;
  return (
    <form onSubmit={(event) => void submit(event)} className="space-y-4" noValidate>
      {kept && (
        <p className="rounded bg-straw px-3 py-1.5 text-straw-ink">
          ◆ What you typed before is back.{' '}
          <button
            type="button"
            className="underline"
            onClick={() => {
              forget();
              form.reset(EMPTY);
            }}
          >
            Begin anew
          </button>
        </p>
      )}
      <div className="grid grid-cols-12 gap-3">
        <Field label="Kind" className="col-span-3">
          {(attributes) => (
            <Choice
              {...attributes}
              value={watch('kind') ?? 'person'}
              onChange={(kind) => form.setValue('kind', kind as Supporter['kind'], { shouldDirty: true })}
              options={KIND_NAMES.map((kind) => ({ value: kind, label: SUPPORTER_KINDS[kind].word }))}
            />
          )}
        </Field>
        {watch('kind') === 'organization' && (
          <Field label="Kind of organization" className="col-span-3">
            {(attributes) => (
              <Choice
                {...attributes}
                value={watch('orgKind') ?? ''}
                onChange={(kind) => form.setValue('orgKind', kind as never, { shouldDirty: true })}
                options={[
                  { value: '', label: 'not said' },
                  ...ORGANIZATION_KINDS.map((kind) => ({ value: kind, label: kind })),
                ]}
              />
            )}
          </Field>
        )}
        {isNew && <CardButton onRead={(draft) => form.reset(formOf(draft))} />}
      </div>
      <NameFields form={form} autoFocus={begin === 'name'} errors={refused?.fields ?? {}} reading={readName} />
      {!stale && <LooksAlike alike={notice?.alike ?? []} />}
      <HomeFields form={form} errors={refused?.fields ?? {}} />
      <Ways form={form} name="emails" />
      <Ways form={form} name="phones" notice={notice} />
      <Ways form={form} name="addresses" notice={notice} />
      <WishFields form={form} />
      <TagsAndOwnFields form={form} autoFocus={begin === 'tags'} errors={refused?.fields ?? {}} />
      {base && <AddressingFields form={form} supporter={base} />}
      {Object.keys(form.formState.errors).length > 0 && (
        <p role="alert" className="text-madder">
          ▲ Something above is not right yet: {faultsIn(form.formState.errors).join(' ')}
        </p>
      )}
      {stale ? (
        <ConflictPanel
          base={draftOf(base as Supporter)}
          mine={SupporterDraft.parse(draftIn(form.getValues()))}
          current={stale.current}
          onSettled={(draft) => {
            form.reset(formOf(draft));
            setBase(stale.current);
            save.reset();
          }}
        />
      ) : (
        save.isError && (
          <p role="alert" className="rounded border border-madder px-3 py-2 text-madder">
            ▲ {save.error.message}
          </p>
        )
      )}
      <DialogActions>
        <Button onClick={dialog?.leave}>Cancel</Button>
        <Button look="main" type="submit" busy={save.isPending} disabled={stale !== null}>
          {base ? 'Save' : 'Add supporter'}
        </Button>
      </DialogActions>
    </form>
  );
}

/** Every message in the faults of a form, however deep. */
function faultsIn(errors: object): string[] {
  const messages = Object.values(errors).flatMap((fault: unknown): string[] => {
    if (typeof fault !== 'object' || fault === null) return [];
    const { message } = fault as { message?: unknown };
    return typeof message === 'string'
      ? [message]
      : faultsIn(Object.fromEntries(Object.entries(fault).filter(([key]) => key !== 'ref')));
  });
  return [...new Set(messages)];
}

function TagsAndOwnFields(props: { form: DraftForm; autoFocus: boolean; errors: Record<string, string> }) {
  const { form, errors } = props;
  const { tags } = useChoices();
  const chosen = form.watch('tags') ?? [];
  const put = (next: string[]): void => form.setValue('tags', next, { shouldDirty: true });
  const { organization } = useHere();
  const { data } = useQuery(ask(listFields));
  const fields = (data?.items ?? []).filter((field) => field.about === 'supporter');
  return (
    <>
      <Field label="Tags" hint="A new one is made when you save. Ctrl+Enter saves.">
        {(attributes) => (
          <Choices
            {...attributes}
            autoFocus={props.autoFocus}
            placeholder="Add a tag"
            options={optionsOfNames(tags.map(({ name }) => name))}
            value={chosen}
            onChange={put}
            onAdd={(tag) => put([...chosen, tag])}
          />
        )}
      </Field>
      {fields.length > 0 && (
        <fieldset>
          <legend className="text-[13px] text-faded">Fields of {organization.name}</legend>
          <div className="grid grid-cols-3 gap-3">
            {fields.map((field) => (
              <Field key={field.id} label={field.name} error={errors[`fields.${field.id}`]}>
                {({ id, 'aria-invalid': invalid }) => (
                  <Controller
                    control={form.control}
                    name={`fields.${field.id}` as never}
                    render={({ field: control }) => (
                      <FieldInput
                        id={id}
                        invalid={invalid}
                        field={field}
                        value={typed((control.value as string | undefined) ?? '')}
                        onChange={control.onChange}
                      />
                    )}
                  />
                )}
              </Field>
            ))}
          </div>
        </fieldset>
      )}
    </>
  );
}

/** Reads an address card (vCard) into the form; nothing is written until the form is saved. */
function CardButton({ onRead }: { onRead: (draft: SupporterDraft) => void }) {
  const input = useRef<HTMLInputElement>(null);
  const read = async (file: File): Promise<void> => {
    try {
      const { items } = await call(readCard, { body: { text: await file.text() } });
      const [first] = items;
      if (!first) throw new Error(`“${file.name}” holds no address card.`);
      onRead(first.draft as SupporterDraft);
      if (first.remarks.length > 0) toast.warning(first.remarks.join(' '), { duration: 12_000 });
      if (items.length > 1)
        toast.message(`The first of ${items.length} cards was read; bring in whole lists under Intake.`);
    } catch (error) {
      toast.error(messageOf(error));
    }
  };
  return (
    <div className="col-span-4 col-end-13 flex items-end justify-end">
      <Button look="quiet" onClick={() => input.current?.click()}>
        From an address card …
      </Button>
      <input
        ref={input}
        type="file"
        accept=".vcf,text/vcard"
        aria-label="Address card"
        className="sr-only"
        onChange={(event) => {
          const [file] = event.target.files ?? [];
          if (file) void read(file);
          event.target.value = '';
        }}
      />
    </div>
  );
}
