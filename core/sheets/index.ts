export {
  cellOf,
  isAboutSupporter,
  isEmptyRow,
  layoutFault,
  MOST_ROWS,
  readBlock,
  SHEET_FIELDS,
  type SheetColumn,
  type SheetField,
  type SheetLayout,
  type SheetRow,
} from './layout.ts';
export {
  blankRow,
  copied,
  filledDown,
  meant,
  pasted,
  withCell,
  withSupporter,
  type Block,
  type NewKey,
} from './edit.ts';
export {
  checkSheet,
  controlDifference,
  summaryOf,
  type CellRemark,
  type CheckedRow,
  type ControlTotals,
  type SheetSetting,
  type SheetSummary,
} from './check.ts';
