import type { Noticed } from './useNotice.ts';

/** Records that may be the one being typed, with why; one opens in a tab of its own, so that what is typed stays. */
export function LooksAlike({ alike }: { alike: Noticed['alike'] }) {
  if (alike.length === 0) return null;
  return (
    <section aria-label="Likely here already" className="rounded border border-rule bg-straw px-3 py-2 text-straw-ink">
      <h2 className="text-sm">◆ Likely here already</h2>
      <ul>
        {alike.map((one) => (
          <li key={one.id}>
            <a className="font-serif underline" href={`/supporters/${one.id}`} target="_blank" rel="noreferrer">
              {one.name}
            </a>{' '}
            {one.number}
            {one.about && `, ${one.about}`}: {one.reasons.join('; ')}
          </li>
        ))}
      </ul>
    </section>
  );
}
