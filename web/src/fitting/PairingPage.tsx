import { pieceCode, type GapWindow } from '@ample-crane/core';
import {
  Box,
  Button,
  Checkbox,
  FormControlLabel,
  ListItem,
  Stack,
  Table,
  TableBody,
  TableCell,
  TableHead,
  TableRow,
  Typography,
} from '@mui/material';
import { useEffect, useMemo, useState } from 'react';
import { Link, useParams } from 'react-router';
import { answered, server } from '../api/client.ts';
import { fileEntries } from '../api/filing.ts';
import { filedWords, usePerform } from '../shared/usePerform.ts';
import { Verdict } from '../devices/Verdict.tsx';
import { Columns, Opening, Page, Panel, PlainList, Quiet, Refused, Row } from '../parts/index.ts';
import { FittingNav } from './FittingNav.tsx';
import { GapChart } from './GapChart.tsx';
import { MeasureSheet } from './MeasureSheet.tsx';
import { askedOf, type Asked, type PairAnswer } from './pair.ts';
import { useMeetings, usePairing, type Pairing, type PairingSide } from './queries.ts';
import { usePair, type PairWork } from './usePair.ts';

/** The pairs that meet, to choose two racks from. */
export function ChoosePair() {
  const { data, error } = useMeetings();
  if (!data) return <Opening error={error} />;
  return (
    <Page title="Pairing" tabs={<FittingNav />}>
      <Box style={{ padding: '14px 16px' }}>
        <Panel>
          <Typography>Which bodies and necks shall be paired by measurement?</Typography>
          <PlainList>
            {data.forecast.meetings.map(({ host, guest, model }) => (
              <ListItem disablePadding key={host}>
                <Link to={`/fitting/pairing/${host}/${guest}`}>
                  {host} with {guest}
                </Link>{' '}
                <Quiet>{model}</Quiet>
              </ListItem>
            ))}
          </PlainList>
          {data.forecast.meetings.length === 0 && (
            <Typography color="textSecondary">Nothing is on its way to a join.</Typography>
          )}
        </Panel>
      </Box>
    </Page>
  );
}

export default function PairingPage() {
  const { host = '', guest = '' } = useParams();
  const { data, error } = usePairing(host, guest);
  if (host === '') return <ChoosePair />;
  if (!data) return <Opening error={error} />;
  return <PairRacks key={`${host}${guest}`} seen={data} />;
}

/** Two racks: what was measured, what would fit at random and by measurement, and the pairs. */
function PairRacks({ seen }: { seen: Pairing }) {
  const { host, guest, windowMm } = seen;
  const movable =
    host.movesMm !== null && guest.movesMm !== null && Math.abs(host.movesMm - guest.movesMm) >= 0.005;
  const [moving, setMoving] = useState(movable);
  const asked = useMemo(() => askedOf(seen, moving), [seen, moving]);
  const ready = asked.tenons.length > 0 && asked.pockets.length > 0;
  const work = usePair(ready ? asked.question : null);
  return (
    <Page
      title={
        <>
          Pair {host.batch} with {guest.batch}
        </>
      }
      tabs={<FittingNav />}
    >
      <Columns>
        <Stack>
          {ready ? (
            <Found seen={seen} asked={asked} work={work} allow={moving} />
          ) : (
            <Verdict
              tone="hold"
              sentence={`Measure first: ${asked.pockets.length} of ${host.pieces.length} pockets and ${asked.tenons.length} of ${guest.pieces.length} tenons are measured.`}
            />
          )}
          {work.busySinceMs !== null && <Working sinceMs={work.busySinceMs} onStop={work.stop} />}
          <Panel className="noprint" label="Spread">
            <GapChart host={host} guest={guest} windowMm={windowMm} />
            {movable && (
              <FormControlLabel
                control={<Checkbox checked={moving} onChange={(_, on) => setMoving(on)} />}
                label={`Allow for the wood: until joined in air of ${seen.roomEmcPct?.toFixed(1)} % EMC, pockets move ${mm(host.movesMm)} and tenons ${mm(guest.movesMm)} mm`}
              />
            )}
          </Panel>
        </Stack>
        <Stack className="noprint">
          <MeasureSheet side={host} word="pocket" />
          <MeasureSheet side={guest} word="tenon" />
        </Stack>
      </Columns>
    </Page>
  );
}

const mm = (value: number | null): string =>
  value === null ? '0' : `${value > 0 ? '+' : '−'}${Math.abs(value).toFixed(3)}`;

function Working({ sinceMs, onStop }: { sinceMs: number; onStop: () => void }) {
  const [seconds, setSeconds] = useState(0);
  useEffect(() => {
    const timer = setInterval(() => setSeconds(Math.floor((Date.now() - sinceMs) / 1000)), 500);
    return () => clearInterval(timer);
  }, [sinceMs]);
  if (seconds < 1) return null;
  return (
    <Row role="status">
      Pairing, {seconds} s so far <Button onClick={onStop}>Stop</Button>
    </Row>
  );
}

function Found({
  seen,
  asked,
  work,
  allow,
}: {
  seen: Pairing;
  asked: Asked;
  work: PairWork;
  allow: boolean;
}) {
  const { perform, busy, refused } = usePerform();
  if (!work.answer)
    return work.stopped ? (
      <Verdict tone="hold" sentence="Stopped: nothing is paired.">
        <Button onClick={work.again}>Pair again</Button>
      </Verdict>
    ) : (
      <Verdict tone="hold" sentence="Pairing…" />
    );
  const { pairing, share } = work.answer;
  const { host, guest, windowMm } = seen;
  const most = Math.min(asked.pockets.length, asked.tenons.length);
  const pairs = pairing.pairs.map(({ pocket, tenon, gapMm }) => ({
    host: asked.pockets[pocket] ?? 0,
    guest: asked.tenons[tenon] ?? 0,
    gapMm,
  }));
  const filed = host.pieces.filter((piece) => piece.partner?.startsWith(`${guest.batch}/`)).length;
  const file = (wanted: { host: number; guest: number }[]): Promise<unknown> =>
    perform(
      (by, key) =>
        answered(
          server.POST('/api/pairings/{host}/{guest}', {
            params: { path: { host: host.batch, guest: guest.batch } },
            body: { key, by, pairs: wanted, allow },
          }),
        ),
      filedWords,
    );
  const random = share ? ((share.measuredPct / 100) * most).toFixed(1) : '?';
  return (
    <>
      <Verdict
        tone={pairs.length === most ? 'good' : 'wait'}
        sentence={`Paired by measurement ${pairs.length} of ${most} fit ${gapWords(windowMm)}; taken at random about ${random} would.`}
      >
        <Typography color="textSecondary">
          Of all combinations {share?.measuredPct.toFixed(0)} % fit
          {share?.populationPct != null && `; of racks like these, ${share.populationPct.toFixed(0)} %`}.
          Total deviation from the middle {pairing.totalDeviationMm.toFixed(2)} mm.
          {allow &&
            ` Gaps allow ${mm((host.movesMm ?? 0) - (guest.movesMm ?? 0))} mm for the wood until they are joined.`}
        </Typography>
      </Verdict>
      <Panel label="Pair list">
        <Row style={{ justifyContent: 'space-between' }}>
          <Typography variant="h2">
            Pairs <Quiet small>{filed > 0 ? `${filed} filed with these racks` : 'not filed yet'}</Quiet>
          </Typography>
          <Row className="noprint">
            <Button onClick={() => window.print()}>Print</Button>
            {filed > 0 && (
              <Button disabled={busy} onClick={() => void file([])}>
                Undo the pairing
              </Button>
            )}
            {filed > 0 && (
              <Button
                disabled={busy}
                onClick={() =>
                  void perform(
                    (by, key) => fileEntries(host.batch, by, key, [{ type: 'join', partner: guest.batch }]),
                    filedWords,
                  )
                }
              >
                Join the {filed} filed
              </Button>
            )}
            <Button
              variant="contained"
              disabled={busy || pairs.length === 0}
              onClick={() => void file(pairs.map(({ host: h, guest: g }) => ({ host: h, guest: g })))}
            >
              File {pairs.length} pairs
            </Button>
          </Row>
        </Row>
        <Table>
          <TableHead>
            <TableRow>
              <TableCell scope="col">body</TableCell>
              <TableCell scope="col">pocket</TableCell>
              <TableCell scope="col">neck</TableCell>
              <TableCell scope="col">tenon</TableCell>
              <TableCell scope="col">{allow ? 'gap when joined' : 'gap'}</TableCell>
            </TableRow>
          </TableHead>
          <TableBody>
            {pairs.map((pair) => (
              <TableRow key={pair.host}>
                <TableCell>{pieceCode(host.batch, pair.host)}</TableCell>
                <TableCell>{valueAt(host, pair.host)}</TableCell>
                <TableCell>{pieceCode(guest.batch, pair.guest)}</TableCell>
                <TableCell>{valueAt(guest, pair.guest)}</TableCell>
                <TableCell>{pair.gapMm.toFixed(3)} mm</TableCell>
              </TableRow>
            ))}
          </TableBody>
        </Table>
        {pairing.leftovers.length > 0 && (
          <>
            <Typography variant="h3" style={{ marginTop: 10 }}>
              Left over, and what would make it fit
            </Typography>
            <PlainList>
              {pairing.leftovers.filter(worthSaying).map((left) => (
                <ListItem disablePadding key={`${left.side}${left.index}`}>
                  <Row>
                    {leftoverWords(left, seen, asked)}
                    <Remedied left={left} seen={seen} asked={asked} />
                  </Row>
                </ListItem>
              ))}
            </PlainList>
          </>
        )}
        <Refused words={refused} />
      </Panel>
    </>
  );
}

/** Once the tenon was planed or shimmed, that is logged with one touch; it is measured again beside. */
function Remedied({
  left: { side, index, with: other, remedy },
  seen: { guest },
  asked: { tenons },
}: {
  left: PairAnswer['pairing']['leftovers'][number];
  seen: Pairing;
  asked: Asked;
}) {
  const { perform, busy, refused } = usePerform();
  const piece = tenons[side === 'tenon' ? index : (other ?? -1)];
  if (remedy.do === 'hold' || piece === undefined) return null;
  const { do: how, byMm } = remedy;
  return (
    <>
      <Button
        className="noprint"
        disabled={busy}
        onClick={() =>
          void perform(
            (by, key) => fileEntries(guest.batch, by, key, [{ type: 'adjust', how, byMm, pieces: [piece] }]),
            filedWords,
          )
        }
      >
        {how === 'plane' ? 'Planed' : 'Shimmed'}
      </Button>
      <Refused words={refused} />
    </>
  );
}

const gapWords = ({ low, high }: GapWindow): string => `a gap of ${low.toFixed(2)}–${high.toFixed(2)} mm`;
const valueAt = ({ pieces }: PairingSide, position: number): string =>
  pieces.find((piece) => piece.position === position)?.valueMm?.toFixed(2) ?? '';

/** A pocket whose partner's tenon is made to fit is told with the tenon. */
const worthSaying = ({ side, with: other }: PairAnswer['pairing']['leftovers'][number]): boolean =>
  side === 'tenon' || other === null;

function leftoverWords(
  left: PairAnswer['pairing']['leftovers'][number],
  { host, guest }: Pairing,
  { pockets, tenons }: Asked,
): string {
  const body = (index: number): string => pieceCode(host.batch, pockets[index] ?? 0);
  const neck = (index: number): string => pieceCode(guest.batch, tenons[index] ?? 0);
  const own = left.side === 'pocket' ? body(left.index) : neck(left.index);
  const { remedy } = left;
  if (remedy.do === 'hold' || left.with === null) return `${own}: keep it for the next rack`;
  const other = left.side === 'pocket' ? neck(left.with) : body(left.with);
  return remedy.do === 'shim'
    ? `${own}: shim the tenon by ${remedy.byMm.toFixed(2)} mm for ${other}`
    : `${own}: plane ${remedy.byMm.toFixed(2)} mm off the tenon for ${other}`;
}
