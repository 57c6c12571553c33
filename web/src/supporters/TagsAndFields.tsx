import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { updateSupporter } from '@tallystick/contract/supporters';
import { listFields } from '@tallystick/contract/fields';
import type { Supporter } from '@tallystick/contract/supporters';
import { ask } from '../ui/api.ts';
import { Button } from '../ui/controls.tsx';
import { useMay } from '../ui/organization.tsx';

const SOURCES: Record<string, string> = {
  hand: 'put on by hand',
  intake: 'from an intake',
  public: 'from a public page',
  plan: 'from a stewardship plan',
  segment: 'kept by a segment',
  load: 'loaded',
};

/** Tags with where each comes from, the groups a supporter is in, and the organisation's own fields. */
export function TagsAndFields({ supporter, onEdit }: { supporter: Supporter; onEdit: () => void }) {
  const mayEdit = useMay(updateSupporter);
  const { data } = useQuery(ask(listFields));
  const fields = (data?.items ?? []).filter((field) => field.about === 'supporter');
  const shown = new Map(supporter.fields.map((field) => [field.fieldId, field.shown]));
  const lines: [string, string][] = [
    ['Nickname', supporter.nickname],
    ['Former last name', supporter.formerLast],
    ['Birthday', supporter.birthday.replace(/^--/, 'each year on ')],
    ['Kind', supporter.orgKind],
    ...supporter.elsewhere.map(({ number, source }): [string, string] => [`Number at ${source}`, number]),
  ];
  return (
    <div className="grid gap-x-8 gap-y-4 @3xl:grid-cols-2">
      <section aria-label="Tags and groups">
        <h2 className="mb-1 text-[15px]">Tags</h2>
        <ul>
          {supporter.tags.map((tag) => (
            <li key={tag.id} className="flex justify-between border-b border-rule py-1">
              <Link className="text-slate hover:underline" to={`/supporters?tag=${tag.id}`}>
                {tag.name}
              </Link>
              <span className="text-[13px] text-faded">{SOURCES[tag.source] ?? tag.source}</span>
            </li>
          ))}
          {supporter.tags.length === 0 && <li className="text-faded">None yet. Press t to tag.</li>}
        </ul>
        <h2 className="mt-4 mb-1 text-[15px]">Groups</h2>
        <ul>
          {supporter.groups.map((group) => (
            <li key={group.id} className="border-b border-rule py-1">
              <Link className="text-slate hover:underline" to={`/supporters?group=${group.id}`}>
                {group.name}
              </Link>
            </li>
          ))}
          {supporter.groups.length === 0 && (
            <li className="text-faded">In no group. Select rows of the list to put them in one.</li>
          )}
        </ul>
      </section>
      <section aria-label="Fields">
        <h2 className="mb-1 text-[15px]">Fields</h2>
        <dl className="grid grid-cols-[11rem_1fr] gap-y-1">
          {lines
            .filter(([, value]) => value !== '')
            .map(([name, value]) => (
              <div key={name} className="contents">
                <dt className="text-faded">{name}</dt>
                <dd>{value}</dd>
              </div>
            ))}
          {fields.map((field) => (
            <div key={field.id} className="contents">
              <dt className="text-faded">{field.name}</dt>
              <dd>{shown.get(field.id) ?? <span className="text-faded">not filled in</span>}</dd>
            </div>
          ))}
        </dl>
        {mayEdit && (
          <Button look="quiet" className="mt-2 -ml-3" onClick={onEdit}>
            Edit tags and fields
          </Button>
        )}
      </section>
    </div>
  );
}
