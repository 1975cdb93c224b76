import { Button } from '@mui/material';
import { Link } from 'react-router';
import { answered, server } from '../api/client.ts';
import { useFloor, useSetup } from '../api/queries.ts';
import { usePerform } from '../shared/usePerform.ts';
import { Refused } from '../devices/Refused.tsx';
import { useRoutes, type RouteSummary } from './queries.ts';

/** Every model with its routes, by kind, and the racks that still work by an older revision. */
export default function RoutesPage() {
  const { data: routes, error } = useRoutes();
  const { data: setup } = useSetup();
  if (!routes || !setup) return <p className="title">{error?.message ?? 'Opening…'}</p>;
  const kindName = (letter: string): string =>
    setup.kinds.find((kind) => kind.letter === letter)?.name ?? letter;
  return (
    <>
      <div className="title">
        <h1>Routes</h1>
        <span className="quiet">racks keep the revision they were opened on until somebody moves them</span>
      </div>
      <div className="stack" style={{ padding: '14px 16px' }}>
        {setup.models.map(({ model, construction, description }) => {
          const own = routes.filter((route) => route.model === model);
          return (
            <section key={model} className="panel" aria-label={model}>
              <h2>
                {model}{' '}
                <span className="quiet smallhead">
                  {construction} · {description}
                </span>
              </h2>
              {own.length === 0 && <p className="quiet">No route yet.</p>}
              <table>
                <tbody>
                  {own
                    .filter((route) => route.newest)
                    .map((route) => (
                      <RouteLine key={route.id} route={route} all={own} kindName={kindName(route.kind)} />
                    ))}
                </tbody>
              </table>
            </section>
          );
        })}
        <Stations />
      </div>
    </>
  );
}

/** The stations routes go through; one that nothing goes through can be taken out of use. */
function Stations() {
  const { data: floor } = useFloor();
  const { perform, busy, refused } = usePerform();
  const remove = (code: string, name: string): Promise<unknown> =>
    perform(
      (by, key) =>
        answered(server.DELETE('/api/stations/{code}', { params: { path: { code }, query: { by, key } } })),
      () => `${name} is out of use`,
    );
  return (
    <section className="panel" aria-label="Stations">
      <h2>
        Stations <span className="quiet smallhead">what no route goes through may be taken out of use</span>
      </h2>
      <Refused words={refused} />
      <div className="row">
        {floor?.stations.map(({ code, name }) => (
          <Button
            key={code}
            disabled={busy}
            onClick={() => void remove(code, name)}
            aria-label={`Take ${name} out of use`}
          >
            {name} ✕
          </Button>
        ))}
      </div>
    </section>
  );
}

function RouteLine({
  route,
  all,
  kindName,
}: {
  route: RouteSummary;
  all: readonly RouteSummary[];
  kindName: string;
}) {
  const older = all.filter((other) => other.kind === route.kind && !other.newest && other.batches.length > 0);
  return (
    <tr>
      <td style={{ width: 160 }}>
        <Link to={`/routes/${encodeURIComponent(route.model)}/${route.kind}`}>
          <strong>{route.kind}</strong> {kindName}
        </Link>
      </td>
      <td style={{ width: 150 }}>
        revision {route.revision}, {route.operations} operations
      </td>
      <td>
        {route.note}
        {older.length > 0 && (
          <div style={{ color: 'var(--shellacText)' }}>
            {older.map((other) => `revision ${other.revision}: ${other.batches.join(', ')}`).join('; ')}
          </div>
        )}
      </td>
      <td className="number">{route.batches.length} racks on it</td>
    </tr>
  );
}
