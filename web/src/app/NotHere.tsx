import { Link, isRouteErrorResponse, useRouteError } from 'react-router';
import { Empty } from '../ui/controls.tsx';

/** For addresses that lead nowhere, and for a page that broke. */
export function NotHere() {
  const error = useRouteError();
  const broke = error !== undefined && !isRouteErrorResponse(error);
  return (
    <Empty title={broke ? 'This page broke' : 'There is nothing here'}>
      <p>
        {broke
          ? `Nothing you saved is lost. ${error instanceof Error ? error.message : ''}`
          : 'The address may be old, or the record was removed.'}
      </p>
      <p className="mt-2">
        {broke ? (
          <a className="text-slate underline" href={location.pathname}>
            Load it again
          </a>
        ) : (
          <Link className="text-slate underline" to="/">
            Go to Today
          </Link>
        )}
      </p>
    </Empty>
  );
}
