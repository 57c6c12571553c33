export { supporterColumns } from './columns.tsx';
export { ExportDialog } from './ExportDialog.tsx';
export { SupporterRecord } from './Record.tsx';
export { TaskDialog, TaskLine } from './TaskLine.tsx';
