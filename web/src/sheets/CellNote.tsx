import type { ReactNode } from 'react';
import { INTAKE_FIELDS } from '@tallystick/core/intake';
import type { SheetRow } from '@tallystick/core/sheets';
import type { SupporterRow } from '@tallystick/contract/supporters';
import { classes } from '../ui/classes.ts';
import { StateWord } from '../ui/controls.tsx';
import { useFormats } from '../ui/organization.tsx';
import type { Person, RowRemarks } from './useSheet.ts';

/** The id of the list that the line below the grid shows while one types. */
export const OFFERED = 'sheet-offered';

/** The line below the grid: who was found for what is typed, what is wrong with the cell, or what can be done in it. */
export function CellNote(props: {
  row: SheetRow | undefined;
  field: string;
  said: RowRemarks | undefined;
  /** While a supporter is looked for: what is typed, who was found, and which of them Enter takes. */
  finding: { typed: string; offered: readonly SupporterRow[]; marked: number; fresh: boolean } | null;
  /** The names to choose from that have what is typed, and which of them the arrows marked. */
  naming: { names: readonly string[]; marked: number | null };
  /** Whether the cell shows what the record has. */
  locked: boolean;
  /** Whether it is the cell of the name. */
  first: boolean;
  headingOf: (field: string) => string;
  known: Person | undefined;
  /** Takes whom was found, or someone new. */
  onTake: (person: { id: number } | undefined) => void;
  onTakeName: (name: string) => void;
  /** Takes a look-alike for who was typed. */
  onMean: (id: number) => void;
}) {
  const { row, said, finding, naming, known } = props;
  const { money, date } = useFormats();
  const problem = said?.problems.find((one) => one.field === props.field);
  const warning = said?.warnings.find((one) => one.field === props.field);
  const alike = (props.first && said?.alike) || [];
  const elsewhere = said?.problems[0];
  return (
    <div aria-live="polite" className="min-h-8 border-t border-rule bg-paper px-4 py-1 text-[13px]">
      {finding ? (
        <Offered
          label="Found"
          busy={!finding.fresh}
          marked={Math.min(finding.marked, finding.offered.length)}
          onTake={(place) => props.onTake(finding.offered[place])}
          lines={[
            ...finding.offered.map((one) => (
              <>
                <span className="font-serif text-[15px]">{one.name}</span>
                <span className="text-faded">
                  {[one.number, one.city, one.email].filter(Boolean).join(' · ')}
                  {one.giving.last === null
                    ? ' · no gift yet'
                    : ` · last gift ${date(one.giving.last)}, ${money(one.giving.lifetime)} in all`}
                </span>
              </>
            )),
            <span key="new">
              Someone new: <span className="font-serif">{finding.typed}</span>
            </span>,
          ]}
        />
      ) : naming.names.length > 0 ? (
        <Offered
          label="Names"
          marked={naming.marked}
          onTake={(place) => props.onTakeName(naming.names[place] ?? '')}
          lines={naming.names}
        />
      ) : problem ? (
        <StateWord tone="wrong">{problem.reason}</StateWord>
      ) : warning ? (
        <StateWord tone="look">{warning.reason}</StateWord>
      ) : alike.length > 0 ? (
        <span>
          <StateWord tone="look">Looks like</StateWord>{' '}
          {alike.map((one) => (
            <button
              key={one.id}
              type="button"
              className="mr-3 text-slate hover:underline"
              onClick={() => props.onMean(one.id)}
            >
              {one.name} ({one.why}): take this one
            </button>
          ))}
        </span>
      ) : elsewhere ? (
        <StateWord tone="wrong">{`${props.headingOf(elsewhere.field ?? '')}: ${elsewhere.reason}`}</StateWord>
      ) : props.locked ? (
        <span className="text-faded">Shown from the record. F2 asks for a change of it.</span>
      ) : row && row.supporterId !== null && props.first ? (
        <span className="text-faded">
          S-{row.supporterId} ·{' '}
          {Object.entries(known?.cells ?? {})
            .filter(
              ([name, text]) => text !== '' && name in INTAKE_FIELDS && name !== 'wholeName' && name !== 'organization',
            )
            .map(([, text]) => text)
            .join(' · ')}{' '}
          · {known?.lastGift}
        </span>
      ) : (
        <span className="text-faded">
          Tab goes on, Enter begins the next row · Shift+arrows choose a block · Ctrl+D repeats the cell above or fills
          down · paste from a spreadsheet · F2 edits · Ctrl+Enter posts
        </span>
      )}
    </div>
  );
}

/** What a cell may become, a line each; the arrows mark one of them and Enter takes it. */
function Offered(props: {
  label: string;
  busy?: boolean;
  marked: number | null;
  lines: readonly ReactNode[];
  onTake: (place: number) => void;
}) {
  return (
    <ul id={OFFERED} role="listbox" aria-label={props.label} aria-busy={props.busy}>
      {props.lines.map((line, place) => (
        <li
          key={place}
          role="option"
          aria-selected={place === props.marked}
          className={classes('flex gap-3 rounded px-2 py-0.5', place === props.marked && 'bg-chosen')}
          onMouseDown={(event) => {
            event.preventDefault();
            props.onTake(place);
          }}
        >
          {line}
        </li>
      ))}
    </ul>
  );
}
