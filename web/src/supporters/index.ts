export { ActsBar } from './ActsBar.tsx';
export { ExportDialog, HeldBackList, UseFields } from './ExportDialog.tsx';
export { SupporterRecord } from './Record.tsx';
export { TaskDialog, TaskLine } from './TaskLine.tsx';
export { TasksBar } from './TasksBar.tsx';
