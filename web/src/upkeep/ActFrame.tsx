import { useId } from 'react';
import type { ReactNode } from 'react';
import { messageOf } from '../ui/api.ts';
import { Button, Heading } from '../ui/controls.tsx';
import type { Said } from '@tallystick/contract/upkeep';

/** An act on one page: what is chosen at the left, and at the right what it will do, in figures, before it is done. */
export function ActFrame(props: {
  title: string;
  facts: string;
  /** What the act will do; null while nobody is chosen yet. */
  said: Said | undefined;
  error: unknown;
  /** The words of the button. */
  word: string;
  busy: boolean;
  onGo: () => void;
  children: ReactNode;
}) {
  const { said, error } = props;
  const form = useId();
  return (
    <>
      <Heading title={props.title} facts={props.facts}>
        <Button type="submit" form={form} look="main" busy={props.busy} disabled={!said || Boolean(error)}>
          {props.word}
        </Button>
      </Heading>
      <div className="grid min-h-0 grow grid-cols-[minmax(22rem,28rem)_1fr] overflow-auto">
        <form
          id={form}
          className="space-y-3 border-r border-rule px-5 py-4"
          onSubmit={(event) => {
            event.preventDefault();
            if (said && !error && !props.busy) props.onGo();
          }}
        >
          {props.children}
        </form>
        <section aria-label="What will happen" aria-live="polite" className="max-w-3xl px-6 py-4">
          {error ? (
            <p className="text-madder">◆ {messageOf(error)}</p>
          ) : said ? (
            <WhatHappens said={said} />
          ) : (
            <p className="text-faded">What will happen is said here before it does.</p>
          )}
        </section>
      </div>
    </>
  );
}

function WhatHappens({ said: { says, doubts, letters } }: { said: Said }) {
  return (
    <>
      <h2 className="mb-1 text-lg">What will happen</h2>
      <ul className="divide-y divide-rule border-y border-rule">
        {says.map((line) => (
          <li key={line} className="py-1.5">
            {line}
          </li>
        ))}
      </ul>
      {doubts.length > 0 && (
        <ul className="mt-3 rounded border border-rule bg-straw px-3 py-2 text-straw-ink" aria-label="To think of">
          {doubts.map((doubt) => (
            <li key={doubt}>◆ {doubt}</li>
          ))}
        </ul>
      )}
      {letters.length > 0 && (
        <table className="mt-5 w-full text-left [&_td]:border-t [&_td]:border-rule [&_td]:py-1.5 [&_td]:pr-4 [&_td]:align-baseline [&_th]:pr-4 [&_th]:text-[13px] [&_th]:font-normal [&_th]:text-faded">
          <caption className="mb-1 text-left">
            <h2 className="text-lg">How they are addressed</h2>
          </caption>
          <thead>
            <tr>
              <th scope="col">Record</th>
              <th scope="col">Before</th>
              <th scope="col">From now on</th>
            </tr>
          </thead>
          <tbody>
            {letters.map(({ id, name, before, after }) => (
              <tr key={id}>
                <td className="font-serif">{name}</td>
                <td className="text-faded">{before || 'not there yet'}</td>
                <td>{before === after ? <span className="text-faded">the same</span> : after}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </>
  );
}
