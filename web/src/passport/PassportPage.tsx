import { Stack, Table, TableBody, TableCell, TableHead, TableRow, Typography } from '@mui/material';
import { useQuery, type UseQueryResult } from '@tanstack/react-query';
import { Link, useParams } from 'react-router';
import { answered, server, type Schemas } from '../api/client.ts';
import { sayDate, sayHour } from '../shared/time.ts';
import { Verdict } from '../devices/Verdict.tsx';
import { EmptyState, Opening, Page, Panel, Quiet, Sideways } from '../parts/index.ts';
import { Papers } from './Papers.tsx';
import { SetUp } from './SetUp.tsx';
import { passportSentence } from './words.ts';
import './PassportPage.css';

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
  if (!data) return <Opening error={error} instead={<Link to={`/batch/${batch}`}>See {batch}</Link>} />;
  const [whole] = data.parts;
  if (!whole) return <EmptyState>There is no such piece.</EmptyState>;
  const against = data.parts.flatMap(({ lines }) => lines).filter(({ kind }) => kind === 'override').length;
  return (
    <Page
      title={
        <>
          {whole.piece}{' '}
          <Quiet small>
            passport, {whole.serial !== null && `${whole.serial}, `}
            {whole.model} {whole.kindName}
          </Quiet>
        </>
      }
      tabs={
        <>
          <Link className="noprint" to={`/batch/${whole.batch}`}>
            Its batch and log
          </Link>
          <Papers batch={batch} position={Number(position)} />
        </>
      }
    >
      <Stack style={{ padding: '0 16px 16px' }}>
        <Verdict tone={against > 0 ? 'wait' : 'good'} sentence={passportSentence(data.parts)} />
        {data.parts.map((part) => (
          <PartPanel key={part.piece} part={part} zone={data.zone} />
        ))}
      </Stack>
    </Page>
  );
}

function PartPanel({ part, zone }: { part: Part; zone: string }) {
  const { piece, batch, kindName, recipe, standing, wood, woodMissing, setUp, lines } = part;
  return (
    <Panel label={`${kindName} ${piece}`}>
      <Typography variant="h2">
        <Link to={`/batch/${batch}`}>{piece}</Link> <Quiet small>{kindName}</Quiet>
      </Typography>
      <Typography color="textSecondary">
        {standing}
        {recipe !== null && ` · ${recipe}`}
      </Typography>
      {wood.map(({ lot, species, papers, blanks, own }) => (
        <Typography key={lot}>
          {species} of <Link to={`/wood/lots/${lot}`}>{lot}</Link>
          {papers !== null && `, papers ${papers}`}{' '}
          <Quiet>
            {own ? (blanks.length === 1 ? 'its blank' : 'its blanks') : 'blanks of its rack, not told apart'}:{' '}
            {blanks.join(', ')}
          </Quiet>
        </Typography>
      ))}
      {woodMissing && <Typography color="textSecondary">No wood is noted of it.</Typography>}
      {setUp.length > 0 && <SetUp values={setUp} />}
      {lines.length === 0 ? (
        <Typography color="textSecondary">Nothing is logged of it yet.</Typography>
      ) : (
        <Sideways>
          <Table className="passport">
            <TableHead>
              <TableRow>
                <TableCell scope="col">when</TableCell>
                <TableCell scope="col">at</TableCell>
                <TableCell scope="col">what</TableCell>
                <TableCell scope="col">by</TableCell>
              </TableRow>
            </TableHead>
            <TableBody>
              {lines.map((line, i) => (
                <TableRow key={i} className={line.kind}>
                  <TableCell>
                    {sayDate(line.atMs, zone)} {sayHour(line.atMs, zone)}
                  </TableCell>
                  <TableCell>{line.at}</TableCell>
                  <TableCell>
                    {line.kind === 'override' ? <strong>Rule passed by: {line.words}</strong> : line.words}
                    {line.against !== null && <Quiet block>The rule said: {line.against}</Quiet>}
                  </TableCell>
                  <TableCell className="quiet">{line.by}</TableCell>
                </TableRow>
              ))}
            </TableBody>
          </Table>
        </Sideways>
      )}
    </Panel>
  );
}
