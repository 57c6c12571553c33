import { zodResolver } from '@hookform/resolvers/zod';
import { useMutation } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import type { FormEvent, RefObject } from 'react';
import { get, useForm } from 'react-hook-form';
import type { FieldPath, FieldValues, Resolver, UseFormReturn } from 'react-hook-form';
import { toast } from 'sonner';
import type { z } from 'zod';
import { messageOf, Refused } from '../api.ts';
import { forgetDraft, keepDraft, keptDraft } from './drafts.ts';
import { useUnsaved } from './unsaved.ts';

/** What is wrong with which field, in words; the name of a field may be a path such as `parts.0.cents`. */
export type Faults = Record<string, string>;

/** A form in use: what is typed, what is wrong with it, and the way to send it. */
export interface Entry<Typed extends FieldValues, How = void, Result = unknown> {
  readonly form: UseFormReturn<Typed>;
  readonly typed: Typed;
  /** Types into fields; what was wrong with them is no longer said. */
  put: (part: Partial<Typed>) => void;
  fault: (name: string) => string | undefined;
  /** What is wrong and has no field on the screen. */
  readonly trouble: string;
  readonly busy: boolean;
  /** The last answer. */
  readonly result: Result | undefined;
  /** True where what was typed before is back. */
  readonly kept: boolean;
  /** Leaving no longer asks: what is typed is of no use any more. */
  letGo: () => void;
  /** Back to the beginning, without what was kept. */
  anew: (typed?: Typed) => void;
  /** Reads what is typed and sends it, `how` as the button says. */
  go: (how: How) => void;
  readonly element: RefObject<HTMLFormElement | null>;
}

/**
 * A form on what is typed: `schema` reads it into what the request takes, `send` sends that, `then` is told the
 * answer. Faults of either go to their fields, and the first is focused. While something is typed and not saved,
 * leaving asks; under `keep` it comes back after a reload.
 */
export function useEntry<Typed extends FieldValues, Body, Result, How = void>(given: {
  schema: z.ZodType<Body, Typed>;
  initial: Typed;
  keep?: string | undefined;
  /** The field that shows a fault of a part of the request, where its name is another. */
  at?: Record<string, string>;
  /** What has to be asked about what was read before it is sent: the questions at their fields. */
  ask?: (body: Body, how: How) => Faults | null;
  send: (body: Body, how: How) => Promise<Result>;
  say?: (result: Result) => string;
  then?: (result: Result, how: How) => void;
  /** Takes up a refusal that is answered in another way than by faults, with the words for it. */
  refused?: (error: Refused) => string | null;
}): Entry<Typed, How, Result> {
  const { keep, at = {} } = given;
  const element = useRef<HTMLFormElement>(null);
  const [kept, setKept] = useState(() => (keep === undefined ? null : keptDraft<Typed>(keep)));
  const [trouble, setTrouble] = useState('');
  /** Counts failures, so that each moves the focus. */
  const [failed, setFailed] = useState(0);
  const form = useForm<Typed, unknown, Body>({
    // What was kept is something typed: only the beginning is clean.
    defaultValues: given.initial as never,
    ...(kept ? { values: kept, resetOptions: { keepDefaultValues: true } } : {}),
    resolver: zodResolver(given.schema as never) as unknown as Resolver<Typed, unknown, Body>,
    shouldFocusError: false,
  });
  const { isDirty, errors } = form.formState;
  const typed = form.watch();
  const [saved, setSaved] = useState(false);
  const forget = (): void => {
    if (keep !== undefined) forgetDraft(keep);
  };
  const letGo = useUnsaved(isDirty && !saved, forget, keep !== undefined);

  const show = (faults: Faults, message = ''): void => {
    for (const [name, words] of Object.entries(faults))
      form.setError((at[name] ?? name) as FieldPath<Typed>, { message: words });
    setTrouble(elsewhere(element.current, faults, at) || (Object.keys(faults).length === 0 ? message : ''));
    setFailed((old) => old + 1);
  };
  useEffect(() => {
    if (failed > 0) element.current?.querySelector<HTMLElement>('[aria-invalid=true]')?.focus();
  }, [failed]);

  const save = useMutation({
    mutationFn: ({ body, how }: { body: Body; how: How }) => given.send(body, how),
    onMutate: () => setTrouble(''),
    onSuccess: (result, { how }) => {
      forget();
      letGo();
      setSaved(true);
      const words = given.say?.(result);
      if (words) toast.success(words);
      given.then?.(result, how);
    },
    onError: (error) => {
      const answered = error instanceof Refused ? (given.refused?.(error) ?? null) : null;
      if (answered !== null) show({}, answered);
      else show(error instanceof Refused ? error.fields : {}, messageOf(error));
    },
  });
  const submit = (how: How): Promise<void> =>
    form.handleSubmit(
      (body) => {
        const asked = given.ask?.(body, how) ?? null;
        if (asked) show(asked);
        else save.mutate({ body, how });
      },
      (found) => show(faultsOf(found)),
    )();

  return {
    form: form as unknown as UseFormReturn<Typed>,
    typed,
    put(part) {
      setSaved(false);
      for (const [name, value] of Object.entries(part)) {
        form.setValue(name as FieldPath<Typed>, value as never, { shouldDirty: true });
        form.clearErrors(name as FieldPath<Typed>);
      }
      if (keep !== undefined) keepDraft(keep, form.getValues());
    },
    fault: (name) => (get(errors, name) as { message?: string } | undefined)?.message,
    trouble,
    busy: save.isPending,
    result: save.data,
    kept: kept !== null,
    letGo,
    anew(next) {
      forget();
      setKept(null);
      setTrouble('');
      form.reset(next ?? given.initial);
    },
    go(how) {
      if (!save.isPending) void submit(how);
    },
    element,
  };
}

/** Every message in the faults of a form, by its path. */
function faultsOf(errors: object, path = ''): Faults {
  const found: Faults = {};
  for (const [name, fault] of Object.entries(errors)) {
    if (typeof fault !== 'object' || fault === null || name === 'ref') continue;
    const here = path === '' ? name : `${path}.${name}`;
    const { message } = fault as { message?: unknown };
    if (typeof message === 'string' && message !== '') found[here] = message;
    else Object.assign(found, faultsOf(fault, here));
  }
  return found;
}

/** The messages of faults whose field is not on the screen. */
function elsewhere(element: HTMLFormElement | null, faults: Faults, at: Record<string, string>): string {
  const hidden = Object.entries(faults).filter(
    ([name]) => !element?.querySelector(`[data-field="${CSS.escape(at[name] ?? name)}"]`),
  );
  return [...new Set(hidden.map(([, words]) => words))].join(' ');
}

/** For a form element whose main button sends: what its submit does. */
export const onSubmit =
  (go: () => void) =>
  (event: FormEvent): void => {
    event.preventDefault();
    go();
  };
