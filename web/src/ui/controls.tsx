import type {
  ButtonHTMLAttributes,
  InputHTMLAttributes,
  ReactNode,
  SelectHTMLAttributes,
  TextareaHTMLAttributes,
} from 'react';
import { useId } from 'react';
import { classes } from './classes.ts';

type Look = 'main' | 'plain' | 'quiet' | 'danger';
const LOOKS: Record<Look, string> = {
  main: 'bg-slate text-on-slate border-slate hover:brightness-110',
  plain: 'bg-sheet text-ink border-rule hover:bg-hover',
  quiet: 'border-transparent text-slate hover:bg-hover',
  danger: 'bg-sheet text-madder border-madder hover:bg-hover',
};

export function Button({
  look = 'plain',
  className,
  ...rest
}: ButtonHTMLAttributes<HTMLButtonElement> & { look?: Look }) {
  return (
    <button
      type="button"
      className={classes(
        'inline-flex h-8 items-center gap-1.5 rounded border px-3 text-sm font-medium whitespace-nowrap disabled:opacity-55',
        LOOKS[look],
        className,
      )}
      {...rest}
    />
  );
}

/** A button that shows only a picture; `label` is its name. */
export function IconButton({ label, className, ...rest }: ButtonHTMLAttributes<HTMLButtonElement> & { label: string }) {
  return (
    <button
      type="button"
      aria-label={label}
      title={label}
      className={classes(
        'inline-grid size-7 place-items-center rounded text-faded hover:bg-hover hover:text-ink disabled:opacity-40',
        className,
      )}
      {...rest}
    />
  );
}

const BOX =
  'rounded border border-rule bg-sheet px-2 text-ink placeholder:text-faded aria-invalid:border-madder disabled:opacity-60';

/** A control fills its place unless it is given a width. */
const widthOf = (className: string | undefined): string => (/(^| )w-/.test(className ?? '') ? 'shrink-0' : 'w-full');

export function Input({ className, ...rest }: InputHTMLAttributes<HTMLInputElement>) {
  return <input className={classes(BOX, 'h-8', widthOf(className), className)} {...rest} />;
}

export function TextArea({ className, ...rest }: TextareaHTMLAttributes<HTMLTextAreaElement>) {
  return <textarea className={classes(BOX, 'py-1.5', widthOf(className), className)} {...rest} />;
}

export function Select({ className, ...rest }: SelectHTMLAttributes<HTMLSelectElement>) {
  return <select className={classes(BOX, 'h-8 pr-6', widthOf(className), className)} {...rest} />;
}

export function Checkbox({ label, ...rest }: InputHTMLAttributes<HTMLInputElement> & { label: ReactNode }) {
  return (
    <label className="inline-flex items-center gap-2">
      <input type="checkbox" className="size-4 accent-(--slate)" {...rest} />
      <span>{label}</span>
    </label>
  );
}

/** A control with its name above and, where it applies, what is wrong with it or a hint below. */
export function Field(props: {
  label: string;
  error?: string | undefined;
  hint?: ReactNode;
  className?: string;
  children: (attributes: { id: string; 'aria-invalid': boolean; 'aria-describedby': string }) => ReactNode;
}) {
  const id = useId();
  const note = `${id}-note`;
  return (
    <div className={props.className}>
      <label htmlFor={id} className="mb-0.5 block text-[13px] text-faded">
        {props.label}
      </label>
      {props.children({ id, 'aria-invalid': props.error !== undefined, 'aria-describedby': note })}
      <div
        id={note}
        className={classes('text-[13px]', props.error ? 'mt-0.5 text-madder' : 'text-faded')}
        role={props.error ? 'alert' : undefined}
      >
        {props.error ?? props.hint}
      </div>
    </div>
  );
}

export function Key({ children }: { children: ReactNode }) {
  return <kbd className="rounded border border-rule bg-sheet px-1 font-sans text-[12px] text-faded">{children}</kbd>;
}

type Tone = 'settled' | 'wrong' | 'look' | 'plain';
const TONES: Record<Tone, [string, string]> = {
  settled: ['text-moss', '●'],
  wrong: ['text-madder', '▲'],
  look: ['text-straw-ink bg-straw px-1 rounded-sm', '◆'],
  plain: ['text-faded', '○'],
};

/** A state as a word with a mark, so that colour never says it alone. */
export function StateWord({ tone, children }: { tone: Tone; children: ReactNode }) {
  const [style, mark] = TONES[tone];
  return (
    <span className={classes('inline-flex items-center gap-1 whitespace-nowrap', style)}>
      <span aria-hidden className="text-[9px]">
        {mark}
      </span>
      {children}
    </span>
  );
}

export function Empty({ title, children }: { title: string; children?: ReactNode }) {
  return (
    <div className="mx-auto max-w-md px-6 py-14 text-center">
      <p className="font-serif text-lg">{title}</p>
      <div className="mt-1 text-faded">{children}</div>
    </div>
  );
}

/** What went wrong in place of what was to be shown. */
export function Trouble({ error }: { error: unknown }) {
  return (
    <div role="alert" className="m-4 rounded border border-madder bg-sheet px-4 py-3 text-madder">
      {error instanceof Error ? error.message : 'Something went wrong.'}
    </div>
  );
}

/** A page's one heading line: its name, its facts, its actions. */
export function Heading({ title, facts, children }: { title: ReactNode; facts?: ReactNode; children?: ReactNode }) {
  return (
    <div className="flex min-h-14 flex-wrap items-center gap-x-4 gap-y-1 border-b border-rule px-5 py-2">
      <h1 className="text-[22px] leading-tight">{title}</h1>
      <div className="text-faded">{facts}</div>
      <div className="ml-auto flex flex-wrap items-center gap-2">{children}</div>
    </div>
  );
}
