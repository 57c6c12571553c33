export { InPeek, useInPeek } from './inPeek.ts';
export { Acts, Facts, Figures, Part, Row, ToSupporter } from './parts.tsx';
export type { Figure } from './parts.tsx';
export { RecordFrame } from './RecordFrame.tsx';
