import { Key } from '../ui/controls.tsx';
import { KEY_MAP } from '../ui/keys.tsx';
import { useHere } from '../ui/organization.tsx';
import { Dialog } from '../ui/overlays.tsx';
import { AREA_KEYS, offered } from './areas.ts';

export function KeysDialog(props: { open: boolean; onClose: () => void }) {
  const { user } = useHere();
  const areas = offered(user.role, AREA_KEYS).map(({ key, says }) => [key, says] as const);
  const keys = [...KEY_MAP.slice(0, 2), ...areas, ...KEY_MAP.slice(2)];
  return (
    <Dialog open={props.open} onClose={props.onClose} title="Keys">
      <dl className="grid grid-cols-[9rem_1fr] gap-y-2">
        {keys.map(([key, what]) => (
          <div key={key} className="contents">
            <dt>
              <Key>{key}</Key>
            </dt>
            <dd>{what}</dd>
          </div>
        ))}
      </dl>
    </Dialog>
  );
}
