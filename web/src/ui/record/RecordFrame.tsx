import type { ReactNode } from 'react';
import { classes } from '../classes.ts';
import { TabPanel, Tabs } from '../tabs.tsx';
import { useListUrl } from '../useListUrl.ts';
import { useTitle } from '../useTitle.ts';
import { useInPeek } from './inPeek.ts';

/** A section of a record, of which one is in sight. */
export interface Section {
  title: string;
  shows: ReactNode;
}

/**
 * The frame of a record, the same in a peek and on a page of its own: its name with its acts, what it is in a few
 * lines, then its sections (the open one is part of the address) or parts, and where there is room what stands beside.
 */
export function RecordFrame<Name extends string>(props: {
  /** Its name to those who do not see, and that of the page where it has one of its own. */
  label: string;
  title: ReactNode;
  /** Beside the title: what kind of thing it is, its number. */
  kind?: ReactNode;
  /** The main acts, at the right of the title. */
  acts?: ReactNode;
  /** What it is: whose, its states in words, its figures. */
  head: ReactNode;
  sections?: Readonly<Record<Name, Section>>;
  /** Its parts where it has no sections, and its dialogs. */
  children?: ReactNode;
  /** On its own page, at the right where there is room; `open` is the section in sight. */
  beside?: ((open: Name) => ReactNode) | undefined;
  /** What stands beside goes under the rest where there is no room for it, instead of away. */
  stacks?: boolean;
}) {
  const { label, title, kind, acts, head, sections, children, beside, stacks = false } = props;
  const peeked = useInPeek();
  const url = useListUrl();
  useTitle(peeked ? undefined : label);
  const names = Object.keys(sections ?? {}) as Name[];
  const asked = url.get('section') as Name;
  const open = names.includes(asked) ? asked : (names[0] as Name);
  const Title = peeked ? 'h2' : 'h1';
  const aside = !peeked && beside !== undefined;
  const body = (
    <div className={classes(aside && '@5xl:grid @5xl:grid-cols-[minmax(0,1fr)_25rem]')}>
      {sections ? (
        names.map((name) => (
          <TabPanel key={name} value={name} className="@container min-w-0 px-5 py-3">
            {sections[name].shows}
          </TabPanel>
        ))
      ) : (
        <div className="min-w-0 px-5 py-3">{children}</div>
      )}
      {aside && (
        <aside
          aria-label="Beside"
          className={classes('space-y-5 border-rule px-5 py-3 @5xl:border-l', !stacks && 'hidden @5xl:block')}
        >
          {beside(open)}
        </aside>
      )}
    </div>
  );
  return (
    <article aria-label={label} className="@container w-full">
      <header className="px-5 pt-3 pb-1 wrap-anywhere">
        <div className="flex flex-wrap items-start justify-end gap-2">
          <Title
            className={classes('min-w-[min(100%,12rem)] flex-1 leading-tight', peeked ? 'text-xl' : 'text-[26px]')}
          >
            {title}
            {kind && (
              <>
                {' '}
                <span className="text-base font-normal whitespace-nowrap text-faded">{kind}</span>
              </>
            )}
          </Title>
          {acts && <div className="flex flex-wrap items-start gap-2">{acts}</div>}
        </div>
        {head}
      </header>
      {sections ? (
        <Tabs
          label="Sections of the record"
          tabs={Object.fromEntries(names.map((name) => [name, sections[name].title])) as Record<Name, string>}
          value={open}
          onChange={(section) => url.set({ section })}
          tight={peeked}
        >
          {body}
        </Tabs>
      ) : (
        body
      )}
      {sections && children}
    </article>
  );
}
