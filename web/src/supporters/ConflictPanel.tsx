import { useState } from 'react';
import { threeWay } from '@tallystick/core/changes';
import { draftOf } from '@tallystick/contract/supporters';
import type { Supporter, SupporterDraft } from '@tallystick/contract/supporters';
import { Radio, Radios } from '../ui/checks.tsx';
import { Button } from '../ui/controls.tsx';

const NAMES: Partial<Record<keyof SupporterDraft, string>> = {
  first: 'First name',
  middle: 'Middle name',
  last: 'Last name',
  formerLast: 'Former last name',
  organization: 'Name',
  emails: 'E-mail',
  phones: 'Telephone',
  addresses: 'Address',
  householdId: 'Household',
  addressing: 'How they are addressed',
  fields: 'Own fields',
};

/** Someone else changed the record meanwhile: both versions field by field, and a person chooses. */
export function ConflictPanel(props: {
  base: SupporterDraft;
  mine: SupporterDraft;
  current: Supporter;
  onSettled: (draft: SupporterDraft) => void;
}) {
  const theirs = draftOf(props.current);
  const { merged, conflicts } = threeWay(props.base, props.mine, theirs);
  const [takeTheirs, setTakeTheirs] = useState<ReadonlySet<string>>(new Set());
  const others = Object.keys(theirs).filter(
    (field) =>
      JSON.stringify(theirs[field as keyof SupporterDraft]) !==
        JSON.stringify(props.base[field as keyof SupporterDraft]) &&
      !conflicts.some((conflict) => conflict.field === field),
  );
  const goOn = (): void => {
    const chosen = { ...merged };
    for (const { field } of conflicts) if (takeTheirs.has(field)) Object.assign(chosen, { [field]: theirs[field] });
    props.onSettled(chosen);
  };
  const choose = (field: string, on: boolean): void =>
    setTakeTheirs((old) => new Set(on ? [...old, field] : [...old].filter((one) => one !== field)));
  return (
    <section ref={show} role="alert" aria-label="Two versions" className="rounded border border-madder px-3 py-2">
      <h2 className="text-sm text-madder">
        ▲ Someone changed this record while you were editing. Nothing of yours is lost.
      </h2>
      {others.length > 0 && (
        <p className="text-[13px] text-faded">
          Their changes to{' '}
          {others.map((field) => (NAMES[field as keyof SupporterDraft] ?? field).toLowerCase()).join(', ')} are kept
          beside yours.
        </p>
      )}
      {conflicts.map(({ field, mine, theirs: other }) => (
        <Radios
          key={field}
          aria-label={wordsFor(field)}
          value={takeTheirs.has(field) ? 'theirs' : 'mine'}
          onValueChange={(whose) => choose(field, whose === 'theirs')}
          className="mt-2 grid grid-cols-[10rem_1fr_1fr] gap-3"
        >
          <span className="text-[13px] text-faded">{wordsFor(field)}, both changed</span>
          <Radio value="mine">
            <span className="text-[13px] text-faded">Yours</span> {worded(mine)}
          </Radio>
          <Radio value="theirs">
            <span className="text-[13px] text-faded">Theirs</span> {worded(other)}
          </Radio>
        </Radios>
      ))}
      <Button look="main" className="mt-2" onClick={goOn}>
        {conflicts.length === 0 ? 'Go on with both' : 'Go on with what is chosen'}
      </Button>
    </section>
  );
}

/** The form is long: what needs a choice comes into sight by itself. */
const show = (section: HTMLElement | null): void => section?.scrollIntoView({ block: 'center' });

/** A value of a draft in words, lists one after the other. */
const wordsFor = (field: string): string =>
  NAMES[field as keyof SupporterDraft] ?? field.replace(/^./, (letter) => letter.toUpperCase());

function worded(value: unknown): string {
  if (value === null || value === undefined || value === '') return 'nothing';
  if (Array.isArray(value)) return value.map(worded).join('; ') || 'nothing';
  if (typeof value === 'object') {
    const { address, number, street, city, kind, name } = value as Record<string, unknown>;
    const main = [address, number, street, city, kind, name].filter((part) => typeof part === 'string' && part !== '');
    return main.length > 0 ? main.join(', ') : Object.values(value).map(worded).join(', ');
  }
  return String(value);
}
