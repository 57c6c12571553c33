export { FieldDialog } from './FieldDialog.tsx';
