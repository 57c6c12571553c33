import { FileUp } from 'lucide-react';
import { useRef } from 'react';
import { useNavigate } from 'react-router';
import { toast } from 'sonner';
import { readDefinition, SegmentDefinition } from '@tallystick/contract/segment-definition';
import { call, messageOf } from '../ui/api.ts';
import { Button } from '../ui/controls.tsx';

/** Opens a definition that was kept as a file as a new segment, which is looked at before it is saved. */
export function BringInDefinition() {
  const navigate = useNavigate();
  const file = useRef<HTMLInputElement>(null);
  const read = async (chosen: File): Promise<void> => {
    try {
      const body = SegmentDefinition.parse(JSON.parse(await chosen.text()));
      const { missing, ...draft } = await call(readDefinition, { body });
      if (missing.length > 0) toast.warning(`Not here, and to be chosen anew: ${missing.join(', ')}`);
      void navigate('/segments/new', { state: { draft } });
    } catch (error) {
      toast.error(
        error instanceof SyntaxError || (error as Error).name === 'ZodError'
          ? 'This file is not the definition of a segment.'
          : messageOf(error),
      );
    }
  };
  return (
    <>
      <input
        ref={file}
        type="file"
        accept=".json,application/json"
        aria-label="File with a definition"
        className="hidden"
        onChange={(event) => {
          const [chosen] = event.target.files ?? [];
          event.target.value = '';
          if (chosen) void read(chosen);
        }}
      />
      <Button look="quiet" onClick={() => file.current?.click()}>
        <FileUp size={14} /> From a file
      </Button>
    </>
  );
}
