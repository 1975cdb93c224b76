import { Button } from '@mui/material';
import { useQuery, type UseQueryResult } from '@tanstack/react-query';
import { Link, useParams } from 'react-router';
import { answered, server, type Schemas } from '../api/client.ts';
import { sayDate, sayHour } from '../shared/time.ts';
import { Verdict } from '../devices/Verdict.tsx';
import { passportSentence } from './words.ts';

type Passport = Schemas['PassportDto'];
type Part = Schemas['PassportPartDto'];

function usePassport(batch: string, position: number): UseQueryResult<Passport> {
  return useQuery({
    queryKey: ['batch', batch, 'passport', position],
    queryFn: () =>
      answered(server.GET('/api/passports/{batch}/{position}', { params: { path: { batch, position } } })),
  });
}

/** What is kept of one piece for ever: its parts, their wood, their evidence, and what rules were passed by. */
export default function PassportPage() {
  const { batch = '', position = '' } = useParams();
  const { data, error } = usePassport(batch, Number(position));
  if (!data)
    return (
      <p className="title">
        {error ? `${error.message}. ` : 'Opening…'}
        {error && <Link to={`/batch/${batch}`}>See {batch}</Link>}
      </p>
    );
  const [whole] = data.parts;
  if (!whole) return <p className="title">There is no such piece.</p>;
  const against = data.parts.flatMap(({ lines }) => lines).filter(({ kind }) => kind === 'override').length;
  return (
    <>
      <div className="title">
        <h1>
          {whole.piece}{' '}
          <span className="quiet smallhead">
            passport, {whole.model} {whole.kindName}
          </span>
        </h1>
        <Link className="noprint" to={`/batch/${whole.batch}`}>
          Its batch and log
        </Link>
        <Button className="noprint" onClick={() => globalThis.print()}>
          Print
        </Button>
      </div>
      <div className="stack" style={{ padding: '0 16px 16px' }}>
        <Verdict tone={against > 0 ? 'wait' : 'good'} sentence={passportSentence(data.parts)} />
        {data.parts.map((part) => (
          <PartPanel key={part.piece} part={part} zone={data.zone} />
        ))}
      </div>
    </>
  );
}

function PartPanel({ part, zone }: { part: Part; zone: string }) {
  const { piece, batch, kindName, recipe, standing, wood, woodMissing, lines } = part;
  return (
    <section className="panel" aria-label={`${kindName} ${piece}`}>
      <h2>
        <Link to={`/batch/${batch}`}>{piece}</Link> <span className="quiet smallhead">{kindName}</span>
      </h2>
      <p className="quiet">
        {standing}
        {recipe !== null && ` · ${recipe}`}
      </p>
      {wood.map(({ lot, species, papers, blanks, own }) => (
        <p key={lot}>
          {species} of <Link to={`/wood/lots/${lot}`}>{lot}</Link>
          {papers !== null && `, papers ${papers}`}{' '}
          <span className="quiet">
            {own ? (blanks.length === 1 ? 'its blank' : 'its blanks') : 'blanks of its rack, not told apart'}:{' '}
            {blanks.join(', ')}
          </span>
        </p>
      ))}
      {woodMissing && <p className="quiet">No wood is noted of it.</p>}
      {lines.length === 0 ? (
        <p className="quiet">Nothing is logged of it yet.</p>
      ) : (
        <div style={{ overflowX: 'auto' }}>
          <table className="passport">
            <thead>
              <tr>
                <th scope="col">when</th>
                <th scope="col">at</th>
                <th scope="col">what</th>
                <th scope="col">by</th>
              </tr>
            </thead>
            <tbody>
              {lines.map((line, i) => (
                <tr key={i} className={line.kind}>
                  <td>
                    {sayDate(line.atMs, zone)} {sayHour(line.atMs, zone)}
                  </td>
                  <td>{line.at}</td>
                  <td>
                    {line.kind === 'override' ? <strong>Rule passed by: {line.words}</strong> : line.words}
                    {line.against !== null && <div className="quiet">The rule said: {line.against}</div>}
                  </td>
                  <td className="quiet">{line.by}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
    </section>
  );
}
