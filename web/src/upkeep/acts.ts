/** What may have happened, each an act on a page of its own. */
export const ACTS = [
  { name: 'Somebody died', path: '/upkeep/died' },
  { name: 'Somebody moved', path: '/upkeep/moved' },
  { name: 'A household parts', path: '/upkeep/parts' },
  { name: 'People share a home', path: '/upkeep/joins' },
  { name: 'Mail came back', path: '/upkeep/returned' },
] as const;
