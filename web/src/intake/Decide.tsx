import type { IntakeRow, IntakeSetting } from '@tallystick/contract/intake';
import { supporterNumber } from '@tallystick/core/supporters';
import { Menu } from '../ui/overlays.tsx';
import type { MenuItem } from '../ui/overlays.tsx';
import type { SetSetting } from './useSetting.ts';

type Pick = IntakeSetting['picks'][string];

/**
 * What a person may choose for a row that is undecided, or that has somebody's very name; or take back of what they
 * chose. The items are numbered, so that a digit and Enter choose.
 */
export function Decide({ row, setting, set }: { row: IntakeRow; setting: IntakeSetting; set: SetSetting }) {
  const key = String(row.row);
  const choose = (pick: Pick): void => set({ picks: { ...setting.picks, [key]: pick } });
  if (setting.picks[key] !== undefined) {
    const { [key]: _taken, ...picks } = setting.picks;
    return (
      <button type="button" className={LOOK} onClick={() => set({ picks })}>
        Choose again
      </button>
    );
  }
  if (row.candidates.length === 0) return null;
  const choices: [string, string, Pick][] = [
    ...row.candidates.map(({ id, name, reasons }): [string, string, Pick] => [
      `${name} ${supporterNumber(id)}`,
      reasons.join(', '),
      id,
    ]),
    ...(row.verdict === 'undecided' ? [['Somebody new', '', 'new'] satisfies [string, string, Pick]] : []),
    ['Leave the row out', '', 'skip'],
  ];
  const items = choices.map(([says, why, pick], at): MenuItem => ({
    label: (
      <span>
        {at + 1} {says} {why !== '' && <span className="text-[13px] text-faded">{why}</span>}
      </span>
    ),
    onSelect: () => choose(pick),
  }));
  return (
    <Menu
      label={`Who row ${row.row} is`}
      items={items}
      trigger={
        <button type="button" className={LOOK} aria-label={`Choose who row ${row.row} is`}>
          Choose …
        </button>
      }
    />
  );
}

const LOOK = 'text-slate hover:underline';
