import { Key } from '../ui/controls.tsx';
import { KEY_MAP } from '../ui/keys.tsx';
import { Dialog } from '../ui/overlays.tsx';

export function KeysDialog(props: { open: boolean; onClose: () => void }) {
  return (
    <Dialog open={props.open} onClose={props.onClose} title="Keys">
      <dl className="grid grid-cols-[9rem_1fr] gap-y-2">
        {KEY_MAP.map(([key, what]) => (
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
