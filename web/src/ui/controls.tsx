import type { ButtonHTMLAttributes, InputHTMLAttributes, ReactNode, TextareaHTMLAttributes } from 'react';
import { cva } from 'class-variance-authority';
import type { VariantProps } from 'class-variance-authority';
import { useId } from 'react';
import { classes } from './classes.ts';
import { Tip } from './Tip.tsx';
import { useTitle } from './useTitle.ts';

const button = cva(
  'inline-flex h-8 items-center gap-1.5 rounded border px-3 text-sm font-medium whitespace-nowrap disabled:opacity-55 aria-disabled:opacity-55',
  {
    variants: {
      look: {
        main: 'border-slate bg-slate text-on-slate hover:brightness-110',
        plain: 'border-rule bg-sheet text-ink hover:bg-hover',
        quiet: 'border-transparent text-slate hover:bg-hover',
        danger: 'border-madder bg-sheet text-madder hover:bg-hover',
      },
    },
    defaultVariants: { look: 'plain' },
  },
);

type ButtonProps = ButtonHTMLAttributes<HTMLButtonElement> &
  VariantProps<typeof button> & {
    /** While what it does is on its way: it does nothing more, and keeps the focus. */
    busy?: boolean | undefined;
  };

export function Button({ look, className, busy = false, onClick, ...rest }: ButtonProps) {
  return (
    <button
      type="button"
      data-look={look}
      className={classes(button({ look }), className)}
      {...rest}
      {...(busy ? { 'aria-disabled': true } : {})}
      onClick={busy ? (event) => event.preventDefault() : onClick}
    />
  );
}

/** A button that shows only a picture; `label` is its name. */
export function IconButton({ label, className, ...rest }: ButtonHTMLAttributes<HTMLButtonElement> & { label: string }) {
  return (
    <Tip says={label}>
      <button
        type="button"
        aria-label={label}
        className={classes(
          'inline-grid size-7 place-items-center rounded text-faded hover:bg-hover hover:text-ink disabled:opacity-40',
          className,
        )}
        {...rest}
      />
    </Tip>
  );
}

/** A control fills its place unless it is given a width. */
const BOX =
  'w-full rounded border border-rule bg-sheet px-2 text-ink placeholder:text-faded aria-invalid:border-madder disabled:opacity-60';

export function Input({ className, ...rest }: InputHTMLAttributes<HTMLInputElement>) {
  return <input className={classes(BOX, 'h-8', className)} {...rest} />;
}

export function TextArea({ className, ...rest }: TextareaHTMLAttributes<HTMLTextAreaElement>) {
  return <textarea className={classes(BOX, 'py-1.5', className)} {...rest} />;
}

/** A control with its name above and, where it applies, what is wrong with it or a hint below. */
export function Field(props: {
  label: string;
  error?: string | undefined;
  hint?: ReactNode;
  className?: string | undefined;
  /** The name of what it is in the form, by which a fault finds it. */
  name?: string | undefined;
  children: (attributes: { id: string; 'aria-invalid': boolean; 'aria-describedby': string }) => ReactNode;
}) {
  const id = useId();
  const note = `${id}-note`;
  return (
    <div className={props.className} data-field={props.name}>
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

const tone = cva('inline-flex items-center gap-1 whitespace-nowrap', {
  variants: {
    tone: {
      settled: 'text-moss',
      wrong: 'text-madder',
      look: 'rounded-sm bg-straw px-1 text-straw-ink',
      plain: 'text-faded',
    },
  },
});
type Tone = 'settled' | 'wrong' | 'look' | 'plain';
const MARKS: Record<Tone, string> = { settled: '●', wrong: '▲', look: '◆', plain: '○' };

/** A state as a word with a mark, so that colour never says it alone. */
export function StateWord(props: { tone: Tone; children: ReactNode }) {
  return (
    <span className={tone({ tone: props.tone })}>
      <span aria-hidden className="text-[9px]">
        {MARKS[props.tone]}
      </span>
      {props.children}
    </span>
  );
}

export function Empty(props: {
  title: string;
  /** Whether this is all that the page has, so that its title is the page's. */
  whole?: boolean;
  children?: ReactNode;
}) {
  const { title, children, whole = false } = props;
  const Title = whole ? 'h1' : 'p';
  return (
    <div className="mx-auto max-w-md px-6 py-14 text-center">
      <Title className="font-serif text-lg">{title}</Title>
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

/** In place of what is being read: that it is, or what went wrong. */
export function Opening({ error }: { error: unknown }) {
  return error ? <Trouble error={error} /> : <p className="p-5 text-faded">Opening …</p>;
}

/** A page's one heading line: its name, its facts, its actions. */
export function Heading({ title, facts, children }: { title: ReactNode; facts?: ReactNode; children?: ReactNode }) {
  useTitle(typeof title === 'string' ? title : undefined);
  return (
    <div className="flex min-h-14 flex-wrap items-center gap-x-4 gap-y-1 border-b border-rule px-5 py-2">
      <h1 className="text-[22px] leading-tight">{title}</h1>
      <div className="text-faded">{facts}</div>
      <div className="ml-auto flex flex-wrap items-center gap-2 [&>a]:inline-flex [&>a]:min-h-6 [&>a]:items-center">
        {children}
      </div>
    </div>
  );
}
