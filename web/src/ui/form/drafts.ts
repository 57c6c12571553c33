/* What was typed and not saved, kept while the tab is open: all drafts of forms live here, each under its form's name. */

const keyOf = (name: string): string => `draft ${name}`;

export function keptDraft<Typed>(name: string): Typed | null {
  const kept = sessionStorage.getItem(keyOf(name));
  return kept === null ? null : (JSON.parse(kept) as Typed);
}

export const keepDraft = (name: string, typed: unknown): void =>
  sessionStorage.setItem(keyOf(name), JSON.stringify(typed));

export const forgetDraft = (name: string): void => sessionStorage.removeItem(keyOf(name));
