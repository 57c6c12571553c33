export { ActsBar } from './ActsBar.tsx';
export { ColleagueSelect } from './ColleagueSelect.tsx';
export { ExportDialog, HeldBackList, UseFields } from './ExportDialog.tsx';
export { NotesBar } from './NotesBar.tsx';
export { SupporterRecord } from './Record.tsx';
export { TASK_FOR_MANY, TaskFields } from './TaskFields.tsx';
export { TaskDialog, TaskLine } from './TaskLine.tsx';
export { TasksBar } from './TasksBar.tsx';
export { TiesBar } from './TiesBar.tsx';
