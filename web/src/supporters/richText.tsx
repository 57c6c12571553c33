import { Fragment } from 'react';
import { lettersText, mergeLetter } from '@tallystick/core/letters';
import type { LetterNode, Run } from '@tallystick/core/letters';

/** Plain text as the tree that notes are kept in, a paragraph for each line. */
export const docOf = (text: string): LetterNode => ({
  type: 'doc',
  content: text
    .split('\n')
    .map((line) => ({ type: 'paragraph', ...(line === '' ? {} : { content: [{ type: 'text', text: line }] }) })),
});

/** A note in plain text, for a line of it. */
export const plainOf = (doc: LetterNode): string => lettersText(mergeLetter(doc, {}).blocks);

/** A note as it was written. Text is only ever shown as text, whatever is in it. */
export function RichText({ doc }: { doc: LetterNode }) {
  return (
    <div className="space-y-1">
      {mergeLetter(doc, {}).blocks.map((block, place) => (
        <p key={place} className={block.kind === 'heading' ? 'font-medium' : ''}>
          {block.kind === 'bullet' ? '• ' : block.kind === 'numbered' ? `${block.number}. ` : ''}
          {block.runs.map((run, at) => (
            <Fragment key={at}>{shown(run)}</Fragment>
          ))}
        </p>
      ))}
    </div>
  );
}

function shown(run: Run) {
  const words = run.bold ? <strong>{run.text}</strong> : run.text;
  const styled = run.italic ? <em>{words}</em> : words;
  return run.link ? (
    <a className="text-slate underline" href={run.link} target="_blank" rel="noreferrer">
      {styled}
    </a>
  ) : (
    styled
  );
}
