import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { classes } from '../classes.ts';
import { Button } from '../controls.tsx';

/** A part of a record under its title: rows, or what else is given. */
export function Part({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section className="mt-4 max-w-2xl">
      <h2 className="border-b border-rule pb-0.5 text-[13px] font-medium text-faded">{title}</h2>
      {children}
    </section>
  );
}

/** A row of a part: what it is, and its figure or day at the right. */
export const Row = ({ left, right }: { left: ReactNode; right: ReactNode }) => (
  <div className="flex items-baseline justify-between gap-4 border-b border-rule py-1">
    <span className="min-w-0">{left}</span>
    <span className="shrink-0 whitespace-nowrap tabular-nums">{right}</span>
  </div>
);

/** A figure of a record with its name; `large` for what it comes to. */
export interface Figure {
  name: string;
  value: string;
  large?: boolean;
}

export function Figures({ figures, tight = false }: { figures: readonly Figure[]; tight?: boolean }) {
  return (
    <dl className={classes('flex flex-wrap gap-y-1', tight ? 'gap-x-4 text-[13px]' : 'gap-x-6')}>
      {figures.map(({ name, value, large }) => (
        <div key={name}>
          <dt className="text-[12px] text-faded">{name}</dt>
          <dd className={large ? 'font-serif text-lg leading-tight' : undefined}>{value || 'none'}</dd>
        </div>
      ))}
    </dl>
  );
}

/** What a record says of itself, a line each. */
export function Facts({ facts }: { facts: readonly (readonly [name: string, value: ReactNode])[] }) {
  return (
    <dl className="grid max-w-xl grid-cols-[10rem_1fr] gap-y-1.5">
      {facts.map(([name, value]) => (
        <div key={name} className="contents">
          <dt className="text-faded">{name}</dt>
          <dd>{value}</dd>
        </div>
      ))}
    </dl>
  );
}

/** What is done with a record now and then, in a row under what it says. */
export function Acts({ acts }: { acts: readonly (readonly [name: string, go: () => void])[] }) {
  if (acts.length === 0) return null;
  return (
    <div className="mt-2 -ml-2 flex flex-wrap gap-1">
      {acts.map(([name, go]) => (
        <Button key={name} look="quiet" className="h-7 px-2" onClick={go}>
          {name}
        </Button>
      ))}
    </div>
  );
}

/** A supporter named in a record, with the way to theirs. */
export const ToSupporter = ({ id, name }: { id: number; name: string }) => (
  <Link className="font-serif text-[15px] text-slate hover:underline" to={`/supporters/${id}`}>
    {name}
  </Link>
);
