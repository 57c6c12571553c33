import { resumeSending } from '@tallystick/contract/outreach';
import { call } from './api.ts';
import { Button, StateWord } from './controls.tsx';
import { useMay } from './organization.tsx';
import { useWrite } from './useWrite.ts';

/** Says that a sending stands still, with the button that goes on with it. */
export function ResumeSending(props: { kind: 'mailing' | 'receipt'; id: number }) {
  const may = useMay(resumeSending);
  const resume = useWrite(() => call(resumeSending, { params: props }), { say: () => 'Going on sending what waits' });
  return (
    <span className="whitespace-nowrap">
      <StateWord tone="look">stopped</StateWord>{' '}
      {may && (
        <Button className="h-7 px-2" busy={resume.isPending} onClick={() => resume.mutate(undefined)}>
          Go on sending
        </Button>
      )}
    </span>
  );
}
