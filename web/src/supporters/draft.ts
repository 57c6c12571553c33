import { zodResolver } from '@hookform/resolvers/zod';
import type { UseFormReturn } from 'react-hook-form';
import { SupporterDraft } from '@tallystick/contract/supporters';
import type { SupporterDraftInput } from '@tallystick/contract/supporters';

/** What the form holds. */
export type Draft = SupporterDraftInput & { tags: string[] };
export type DraftForm = UseFormReturn<Draft>;
/** A form with nothing in it. */
export const EMPTY: Draft = {
  kind: 'person',
  emails: [],
  phones: [],
  addresses: [],
  wishes: [],
  members: [],
  tags: [],
};
/** The name under which a new supporter's draft is kept. */
export const KEPT = 'supporter';

/** A draft as the form holds it, and back. */
export const formOf = (draft: SupporterDraftInput): Draft => ({ ...draft, tags: draft.tags ?? [] });

/** Only what was filled in: a control that was never touched holds undefined, and null once it was kept as a draft. */
const filled = <T extends object>(values: T | undefined): T | undefined =>
  values &&
  (Object.fromEntries(Object.entries(values).filter(([, value]) => value !== undefined && value !== null)) as T);

export const draftIn = (draft: Draft): SupporterDraftInput => ({
  ...draft,
  fields: filled(draft.fields),
  addressing: filled(draft.addressing),
});
export const checked = zodResolver(SupporterDraft);
