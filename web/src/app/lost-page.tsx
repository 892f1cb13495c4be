import { Link, useRouteError } from 'react-router';

/** Shown where an address leads nowhere, or the server is away. */
export function LostPage() {
  const error = useRouteError() as Error | undefined;
  return (
    <div className="full-page">
      <div>
        <h1 className="h4">{error ? 'This could not be opened' : 'There is nothing at this address'}</h1>
        <p>{error?.message ?? 'It may have been deleted, or the address is mistyped.'}</p>
        <button className="btn btn-quiet me-2" onClick={() => window.location.reload()}>
          Try again
        </button>
        <Link className="btn btn-sunlit" to="/projects">
          All projects
        </Link>
      </div>
    </div>
  );
}
