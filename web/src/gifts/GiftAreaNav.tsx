import { NavLink } from 'react-router';

const PAGES = [
  ['/gifts', 'Gifts'],
  ['/gifts/pledges', 'Pledges'],
  ['/gifts/recurring', 'Recurring'],
  ['/gifts/sheets', 'Entry sheets'],
  ['/gifts/deposits', 'Batches and deposits'],
  ['/gifts/ledger', 'Ledger'],
  ['/gifts/totals', 'Totals'],
  ['/gifts/codes', 'Funds and appeals'],
] as const;

/** The pages of the area of gifts. */
export function GiftAreaNav() {
  return (
    <nav aria-label="Gifts" className="flex flex-wrap gap-x-1 border-b border-rule bg-paper px-3 print:hidden">
      {PAGES.map(([path, name]) => (
        <NavLink
          key={path}
          to={path}
          end={path === '/gifts'}
          className={({ isActive }) =>
            `border-b-2 px-2 py-1.5 text-[13px] whitespace-nowrap ${isActive ? 'border-hazel text-ink' : 'border-transparent text-faded hover:text-ink'}`
          }
        >
          {name}
        </NavLink>
      ))}
    </nav>
  );
}
