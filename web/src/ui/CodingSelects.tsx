import { Choice, codedOption } from './choice/index.tsx';
import { Field } from './controls.tsx';
import { useChoices } from './useChoices.ts';

/** What a gift or a pledge goes to, as the values of three selects; empty for none. */
export interface Coding {
  fundId: string;
  campaignId: string;
  appealId: string;
}
export const NO_CODING: Coding = { fundId: '', campaignId: '', appealId: '' };

/** A place as a request has it. */
export const codingOf = (coding: Coding) => ({
  fundId: Number(coding.fundId),
  campaignId: coding.campaignId === '' ? null : Number(coding.campaignId),
  appealId: coding.appealId === '' ? null : Number(coding.appealId),
});

export const typedCoding = (given: { fundId: number; campaignId: number | null; appealId: number | null }): Coding => ({
  fundId: String(given.fundId),
  campaignId: given.campaignId === null ? '' : String(given.campaignId),
  appealId: given.appealId === null ? '' : String(given.appealId),
});

/** The next open fund that is not taken yet, as the value of a select; the first again where all are. */
export const unusedFund = (funds: readonly { id: number; closed: boolean }[], taken: readonly string[]): string => {
  const open = funds.filter((fund) => !fund.closed);
  return String((open.find((fund) => !taken.includes(String(fund.id))) ?? open[0])?.id ?? '');
};

/** The fund that is offered first: the general one, or the first that is open. */
export function useFirstFund(): string {
  const { funds } = useChoices();
  const open = funds.filter((fund) => !fund.closed);
  return String((open.find((fund) => fund.code === 'GEN') ?? open[0])?.id ?? '');
}

/**
 * Fund, campaign and appeal; closed ones are offered only where they are chosen already. `bare` leaves the names to
 * the rows' headings.
 */
export function CodingSelects(props: {
  value: Coding;
  onChange: (value: Coding) => void;
  faultOf?: (name: string) => string | undefined;
  bare?: string;
}) {
  const { value, onChange, faultOf, bare } = props;
  const choices = useChoices();
  const one = (
    name: keyof Coding,
    label: string,
    list: readonly { id: number; name: string; code: string; closed: boolean }[],
    none: string | null,
  ) => {
    const select = (attributes: object) => (
      <Choice
        {...attributes}
        remember={name.replace('Id', '')}
        value={value[name]}
        onChange={(picked) => onChange({ ...value, [name]: picked })}
        options={[
          ...(none !== null ? [{ value: '', label: none }] : []),
          ...list
            .filter((place) => !place.closed || String(place.id) === value[name])
            .map((place) => codedOption(place)),
        ]}
      />
    );
    return bare === undefined ? (
      <Field key={name} name={name} label={label} error={faultOf?.(name)}>
        {select}
      </Field>
    ) : (
      <div key={name}>{select({ 'aria-label': `${label}, ${bare}` })}</div>
    );
  };
  const appeals = choices.appeals.filter(
    (appeal) => value.campaignId === '' || appeal.campaignId === Number(value.campaignId),
  );
  return (
    <>
      {one('fundId', 'Fund', choices.funds, null)}
      {one('campaignId', 'Campaign', choices.campaigns, bare === undefined ? 'None' : 'No campaign')}
      {one('appealId', 'Appeal', appeals, bare === undefined ? 'None' : 'No appeal')}
    </>
  );
}
