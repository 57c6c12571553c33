import type { ResponseOf } from '@tallystick/contract/endpoint';
import type { lookAtHome } from '@tallystick/contract/upkeep';
import { Checkbox } from '../ui/checks.tsx';

export type Someone = ResponseOf<typeof lookAtHome>['people'][number];

/** Whom of a home something is about. */
export function People(props: {
  label: string;
  people: readonly Someone[];
  chosen: readonly number[];
  onChange: (ids: number[]) => void;
}) {
  const { chosen } = props;
  return (
    <fieldset>
      <legend className="mb-0.5 text-[13px] text-faded">{props.label}</legend>
      <ul className="space-y-1">
        {props.people.map(({ id, name, kind, address, deceased }) => (
          <li key={id}>
            <Checkbox
              checked={chosen.includes(id)}
              onChange={(on) => props.onChange(on ? [...chosen, id] : chosen.filter((one) => one !== id))}
              label={
                <>
                  <span className="font-serif">{name}</span>
                  {kind === 'household' && <span className="text-faded"> (the household itself)</span>}
                  {deceased && <span className="text-faded"> (deceased)</span>}
                  <span className="block text-[13px] text-faded">{address || 'no address'}</span>
                </>
              }
            />
          </li>
        ))}
      </ul>
    </fieldset>
  );
}
