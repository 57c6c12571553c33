import { drawLabels } from './labels-pdf.ts';
import type { Labels } from './labels-pdf.ts';

export const work = (labels: Labels): Promise<Uint8Array> => drawLabels(labels);
