import { useState } from 'react';
import { Switch } from '../ui/checks.tsx';
import { Key } from '../ui/controls.tsx';
import { KEY_MAP, setSingleKeys, singleKeys } from '../ui/keys.tsx';
import { useHere } from '../ui/organization.tsx';
import { Dialog } from '../ui/overlays.tsx';
import { AREA_KEYS, offered } from './areas.ts';

export function KeysDialog(props: { open: boolean; onClose: () => void }) {
  const { user } = useHere();
  const areas = offered(user.role, AREA_KEYS).map(({ key, says }) => [key, says] as const);
  const [single, setSingle] = useState(singleKeys);
  const keys = [...KEY_MAP.slice(0, 2), ...areas, ...KEY_MAP.slice(2)];
  return (
    <Dialog open={props.open} onClose={props.onClose} title="Keys">
      <p className="mb-3 border-b border-rule pb-3">
        <Switch
          label="Keys of one letter do something"
          on={single}
          onChange={(on) => {
            setSingleKeys(on);
            setSingle(on);
          }}
        />
      </p>
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
