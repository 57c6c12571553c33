import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useDeferredValue, useState } from 'react';
import { mergeFieldWord } from '@tallystick/core/letters';
import type { LetterNode } from '@tallystick/core/letters';
import { previewMailing } from '@tallystick/contract/outreach';
import { FIRST_VIEW } from '@tallystick/core/segments';
import { getSegment, tableOfSegment } from '@tallystick/contract/segments';
import type { View } from '@tallystick/contract/segments';
import { ask, call, keyOf } from '../ui/api.ts';
import { SupporterPicker } from '../ui/SupporterPicker.tsx';
import type { Picked } from '../ui/SupporterPicker.tsx';
import { StateWord } from '../ui/controls.tsx';

/** The e-mail as one recipient would get it: the first of the segment, or whoever is chosen. */
export function MailingPreview(props: { subject: string; body: LetterNode; segmentId: number | null }) {
  const [picked, setPicked] = useState<Picked | null>(null);
  const first = useQuery({
    queryKey: [...keyOf(getSegment, { params: { id: props.segmentId ?? 0 } }), 'first'],
    queryFn: async ({ signal }) => {
      const segment = await call(getSegment, { params: { id: props.segmentId ?? 0 }, signal });
      const { conditions, credit } = segment;
      const body = { conditions, credit, view: FIRST_VIEW as View, limit: 1 };
      const [row] = (await call(tableOfSegment, { body, signal })).items;
      return row ? { id: row.supporterId, name: String(row.cells[0]) } : null;
    },
    enabled: props.segmentId !== null,
  });
  const who = picked ?? first.data ?? null;
  const asked = useDeferredValue({ subject: props.subject, body: props.body });
  const { data } = useQuery({
    ...ask(previewMailing, { body: { ...asked, supporterId: who?.id ?? 0 } }),
    enabled: who !== null,
    placeholderData: keepPreviousData,
  });
  return (
    <section aria-label="Preview" className="rounded border border-rule bg-sheet">
      <div className="flex items-center gap-2 border-b border-rule px-3 py-1.5">
        <span className="whitespace-nowrap text-faded">As seen by</span>
        <div className="flex-1">
          <SupporterPicker label="Preview for" value={who && { id: who.id, name: who.name }} onPick={setPicked} />
        </div>
      </div>
      {data ? (
        <>
          <p className="border-b border-rule px-3 py-1.5">
            <span className="text-faded">To {data.to || 'no e-mail address'} · </span>
            <strong className="font-medium">{data.subject}</strong>
          </p>
          {data.missing.length > 0 && (
            <p className="px-3 py-1">
              <StateWord tone="look">
                Empty for this one, with no fallback: {data.missing.map(mergeFieldWord).join(', ')}
              </StateWord>
            </p>
          )}
          <iframe
            title="The e-mail as it arrives"
            sandbox=""
            srcDoc={data.html}
            className="h-72 w-full rounded-b bg-white"
          />
        </>
      ) : (
        <p className="px-3 py-4 text-faded">
          Choose a segment, or a supporter above, to see the e-mail as it would arrive.
        </p>
      )}
    </section>
  );
}
