import { X } from 'lucide-react';
import { partIn } from '@tallystick/core/catalogue';
import type { Known } from '@tallystick/core/catalogue';
import { Button, IconButton } from '../ui/controls.tsx';
import { Menu } from '../ui/overlays.tsx';
import { firstTest } from './conditions.ts';
import type { Where } from './conditions.ts';
import { TestEditor } from './TestEditor.tsx';

/** What is asked of each row: its parts, each with its test; more of them by 'Narrower'. */
export function WhereEditor(props: {
  known: Readonly<Record<string, Known>>;
  where: readonly Where[];
  onChange: (where: Where[]) => void;
  extras?: readonly { label: string; onSelect: () => void }[];
}) {
  const { known, where, onChange, extras = [] } = props;
  const put = (at: number, next: Where): void => onChange(where.map((one, place) => (place === at ? next : one)));
  const offered = Object.entries(known).map(([part, one]) => ({
    label: one.label,
    onSelect: () => onChange([...where, { part, test: firstTest(one) }]),
  }));
  return (
    <>
      {where.map((one, at) => {
        const part = partIn(known, one.part);
        return (
          <Chip
            key={at}
            label={part?.label ?? 'what is no longer there'}
            onRemove={() => onChange(where.filter((_, place) => place !== at))}
          >
            {part ? (
              <>
                <button
                  type="button"
                  aria-pressed={one.not === true}
                  title="Turn it round"
                  className="rounded px-1 text-faded hover:bg-hover hover:text-ink"
                  onClick={() => put(at, { ...one, not: one.not ? undefined : true })}
                >
                  {one.not ? <b className="text-madder">not </b> : null}
                  {part.label}
                </button>
                <TestEditor
                  label={part.label}
                  type={part.type}
                  test={one.test}
                  onChange={(test) => put(at, { ...one, test })}
                />
              </>
            ) : (
              <span className="text-madder">no longer there</span>
            )}
          </Chip>
        );
      })}
      <Menu
        label="Narrower"
        trigger={
          <Button look="quiet" className="h-7 px-2">
            Narrower
          </Button>
        }
        items={[...offered, ...extras]}
      />
    </>
  );
}

export function Chip({
  label,
  onRemove,
  children,
}: {
  label: string;
  onRemove: () => void;
  children: React.ReactNode;
}) {
  return (
    <span className="inline-flex flex-wrap items-center gap-1.5 rounded border border-rule px-1 py-0.5">
      {children}
      <IconButton label={`Take out ${label}`} onClick={onRemove}>
        <X size={12} />
      </IconButton>
    </span>
  );
}
