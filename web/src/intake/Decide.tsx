import type { IntakeRow, IntakeSetting } from '@tallystick/contract/intake';
import { supporterNumber } from '@tallystick/core/supporters';
import type { SetSetting } from './useSetting.ts';

type Pick = IntakeSetting['picks'][string];

/** What a person may choose for a row that is undecided, or take back of what they chose. */
export function Decide({ row, setting, set }: { row: IntakeRow; setting: IntakeSetting; set: SetSetting }) {
  const key = String(row.row);
  const choose = (pick: Pick): void => set({ picks: { ...setting.picks, [key]: pick } });
  if (setting.picks[key] !== undefined) {
    const { [key]: _taken, ...picks } = setting.picks;
    return <Act say="Choose again" onAct={() => set({ picks })} />;
  }
  if (row.candidates.length === 0) return null;
  return (
    <span className="flex gap-3">
      {row.candidates.map(({ id, name, reasons }) => (
        <Act
          key={id}
          say={name}
          title={`${supporterNumber(id)}: ${reasons.join(', ') || 'nothing but that'}`}
          onAct={() => choose(id)}
        />
      ))}
      {row.verdict === 'undecided' && <Act say="somebody new" onAct={() => choose('new')} />}
      <Act say="leave out" onAct={() => choose('skip')} />
    </span>
  );
}

function Act({ say, title, onAct }: { say: string; title?: string; onAct: () => void }) {
  return (
    <button type="button" className="text-slate hover:underline" title={title} onClick={onAct}>
      {say}
    </button>
  );
}
