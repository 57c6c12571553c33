import { drawLabels } from './labels-pdf.ts';

export const work = (labels: Parameters<typeof drawLabels>[0]): Promise<Uint8Array> => drawLabels(labels);
