import { useQuery } from '@tanstack/react-query';
import { facetGifts } from '@tallystick/contract/gifts';
import type { QueryInputOf } from '@tallystick/contract/endpoint';
import { ask } from '../ui/api.ts';
import { useFormats } from '../ui/organization.tsx';

const WORDS = { fund: 'Fund', campaign: 'Campaign', appeal: 'Appeal', method: 'Paid by' };

/** How what is shown falls to funds, campaigns, appeals and methods; a click narrows to one, another lets it go. */
export function Facets(props: {
  filter: QueryInputOf<typeof facetGifts>;
  chosen: (by: keyof typeof WORDS) => string;
  onChoose: (by: keyof typeof WORDS, key: string) => void;
}) {
  const { money, count, gifts } = useFormats();
  const { data } = useQuery({ ...ask(facetGifts, { query: props.filter }), placeholderData: (old) => old });
  return (
    <aside
      aria-label="What the gifts went to"
      className="hidden w-60 shrink-0 overflow-auto border-r border-rule bg-paper px-3 py-2 xl:block"
    >
      {data?.facets
        .filter((facet) => facet.items.length > 0)
        .map((facet) => (
          <section key={facet.by} className="mb-3">
            <h2 className="text-[12.5px] font-medium text-faded">{WORDS[facet.by]}</h2>
            <ul>
              {facet.items.slice(0, 8).map((item) => {
                const on = props.chosen(facet.by) === item.key;
                return (
                  <li key={item.key}>
                    <button
                      type="button"
                      aria-pressed={on}
                      title={`${item.name}: ${gifts(item.count)}, ${money(item.cents)}`}
                      onClick={() => props.onChoose(facet.by, on ? '' : item.key)}
                      className={`flex min-h-6 w-full items-baseline gap-2 rounded px-1 py-0.5 text-left text-[13px] hover:bg-hover ${on ? 'bg-chosen' : ''}`}
                    >
                      <span className="min-w-0 flex-1 truncate">{item.name}</span>
                      <span className="text-faded tabular-nums">{count(item.count)}</span>
                    </button>
                  </li>
                );
              })}
            </ul>
          </section>
        ))}
    </aside>
  );
}
