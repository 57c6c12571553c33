import { Link, useRouteError } from 'react-router';
import { Empty } from '../ui/controls.tsx';

/** For addresses that lead nowhere. */
export const NotHere = () => (
  <Empty whole title="There is nothing here">
    <p>The address may be old, or the record was removed.</p>
    <p className="mt-2">
      <Link className="text-slate underline" to="/">
        Go to Today
      </Link>
    </p>
  </Empty>
);

/** For a page that broke, or that could not be loaded; the frame around it goes on. */
export function Broke() {
  const error = useRouteError();
  return (
    <Empty whole title="This page broke">
      <p>Nothing you saved is lost. {error instanceof Error ? error.message : ''}</p>
      <p className="mt-2">
        <a className="text-slate underline" href={location.pathname}>
          Load it again
        </a>
      </p>
    </Empty>
  );
}
