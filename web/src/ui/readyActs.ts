import { useNavigate } from 'react-router';
import { toast } from 'sonner';
import { checkExport, exportSupporters } from '@tallystick/contract/acts';
import type { Selection } from '@tallystick/contract/acts';
import type { ReadyAct } from '@tallystick/contract/common';
import { fileOfSegment, getSegment } from '@tallystick/contract/segments';
import { call, callFile } from './api.ts';
import { download } from './download.ts';
import { useFormats } from './organization.tsx';
import { useWrite } from './useWrite.ts';

/** What is ready to be done with a segment, as a button says it. */
export const READY_WORDS: Record<ReadyAct, string> = {
  open: 'Open',
  table: 'Workbook of the table',
  labels30: 'Labels, 30 a page',
  labels10: 'Labels, 10 a page',
  calls: 'Call sheet',
  write: 'Write to them',
};
const FILES: Partial<Record<ReadyAct, { for: 'mail' | 'call'; name: string }>> = {
  labels30: { for: 'mail', name: 'labels.pdf' },
  labels10: { for: 'mail', name: 'labels.pdf' },
  calls: { for: 'call', name: 'calls.pdf' },
};

/** Does at once what is ready to be done with a segment; of a file it says how many are in it, and how many are held back. */
export function useReadyAct() {
  const navigate = useNavigate();
  const { counted, count } = useFormats();
  return useWrite(async ({ act, segmentId, name }: { act: ReadyAct; segmentId: number; name: string }) => {
    if (act === 'open') return void navigate(`/segments/${segmentId}`);
    if (act === 'write') return void navigate(`/outreach/new?segment=${segmentId}`);
    toast.message('Making the file …');
    const { conditions, credit, view: owners, ownView } = await call(getSegment, { params: { id: segmentId } });
    const view = ownView ?? owners;
    if (act === 'table') {
      const body = { conditions, credit, view, as: 'xlsx' as const };
      return download(await callFile(fileOfSegment, { body }), `${name}.xlsx`);
    }
    const file = FILES[act];
    if (!file) return;
    const selection: Selection = { kind: 'list', filter: { segment: segmentId, trashed: 'no' }, except: [] };
    // What the segment's table is to ask them for, where that was said.
    const purpose = view.goes && view.goes.for !== 'office' ? view.goes.purpose : 'news';
    const body = { selection, for: file.for, purpose };
    const { asked, held } = await call(checkExport, { body });
    download(await callFile(exportSupporters, { body: { ...body, as: act as 'calls' } }), file.name);
    toast.success(`${counted(asked - held, 'supporter')} in it${held > 0 ? `; ${count(held)} held back` : ''}`);
  });
}
