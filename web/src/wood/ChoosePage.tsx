import { MAY_BE } from '@ample-crane/core';
import {
  Box,
  Button,
  Stack,
  Table,
  TableBody,
  TableCell,
  TableHead,
  TableRow,
  Typography,
} from '@mui/material';
import { Link, useParams } from 'react-router';
import {
  CartesianGrid,
  ComposedChart,
  ReferenceArea,
  ResponsiveContainer,
  Scatter,
  XAxis,
  YAxis,
} from 'recharts';
import { answered, server } from '../api/client.ts';
import { Verdict } from '../devices/Verdict.tsx';
import { AskNumber, AskWords, Form, useDraft } from '../fields/index.ts';
import { Columns, Opening, Page, Panel, Quiet, Row } from '../parts/index.ts';
import { useChoice, useWeighBacks, type Choice } from './queries.ts';
import { numberOf } from '../shared/typed.ts';
import { TakeThem } from './TakeThem.tsx';
import { choiceWords, kg, missingOf, windowWords } from './words.ts';
import { useWoodFiling } from './useWoodFiling.ts';

/** The newest of what was weighed back are shown: a slip is seen soon. */
const WEIGHED_SHOWN = 6;

/** Which blanks a rack should take: planned with all racks that want wood, so that none takes what another needs. */
export default function ChoosePage() {
  const { batch = '' } = useParams();
  const { data: choice, error } = useChoice(batch);
  if (!choice) return <Opening error={error} words="Choosing…" />;
  return <Chosen choice={choice} />;
}

function Chosen({ choice }: { choice: Choice }) {
  const { batch, chosen, thumb, demand, wished, along, keep } = choice;
  return (
    <Page
      title={<>Blanks for {batch}</>}
      tabs={
        <>
          <Quiet>
            {choice.model} · {choice.quantity} pieces · {demand.species}
            {demand.grade !== 'plain' && `, figure: ${demand.grade} or better`}
            {demand.colour && `, ${demand.colour}`}
            {demand.moisture &&
              `, moisture ${demand.moisture.lowPct.toFixed(1)}–${demand.moisture.highPct.toFixed(1)} %`}
          </Quiet>
          <Link to={`/batch/${batch}`}>The rack</Link>
        </>
      }
    >
      <Columns>
        <Stack>
          <Verdict tone={chosen.missing.length > 0 ? 'wait' : 'good'} sentence={choiceWords(choice)}>
            {choice.wanting > 0 && (
              <Typography>
                Together {kg(chosen.totalDeviationKg)} kg from the middle of the window; taking the lightest
                first, rack after rack, would be {kg(thumb.totalDeviationKg)} kg{shortWords(thumb)}.
              </Typography>
            )}
            <Typography color="textSecondary">
              {along.length > 0
                ? `Planned along with ${along.map(({ batch: other, count, model }) => `${other} (${count} for ${model})`).join(', ')}.`
                : 'No other rack wants this wood now.'}
            </Typography>
            <TakeThem choice={choice} />
          </Verdict>
          {choice.units.length > 0 && <StockChart choice={choice} />}
          <ChosenTable choice={choice} />
        </Stack>
        <Stack>
          <Panel label="How a weight is predicted">
            <Typography variant="h2">Finished weight</Typography>
            <Typography>
              blank × {keep.mean.toFixed(3)} + {kg(demand.othersKg)} kg for the other wood and the kit.
            </Typography>
            <Typography color="textSecondary">
              {keep.count === 0
                ? `${choice.model} keeps what Setup says; nothing was weighed back yet.`
                : `Learnt from ${keep.count} pieces weighed before and after; one piece differs by ± ${keep.sd.toFixed(3)}, that is ± ${kg(keep.sd * usualKg(choice))} kg.`}
              {demand.chamberKg > 0 && ` Chambering may take out up to ${kg(demand.chamberKg)} kg.`}
            </Typography>
            {wished.map(({ line, pieces, othersKg, ...wish }) => (
              <Typography key={`${line} ${pieces.join(' ')}`}>
                <Link to={`/orders/${line.split('/')[0] ?? ''}`}>{line}</Link> wishes {windowWords(wish)} kg:
                piece {pieces.join(', ')}, with {kg(othersKg)} kg for its own other wood and kit.
              </Typography>
            ))}
          </Panel>
          <WeighBackForm choice={choice} />
          {choice.taken.length > 0 && (
            <Panel label="Taken already">
              <Typography variant="h2">Taken already</Typography>
              <Typography>{choice.taken.join(', ')}</Typography>
            </Panel>
          )}
        </Stack>
      </Columns>
    </Page>
  );
}

const usualKg = ({ units }: Choice): number =>
  units.reduce((sum, unit) => sum + unit.weightKg, 0) / Math.max(1, units.length);

function shortWords(thumb: Choice['thumb']): string {
  const short = missingOf(thumb);
  return short > 0 ? ` and leave ${short} places empty` : '';
}

/** The whole stock by predicted finished weight: what is chosen is filled, the window is the band. */
function StockChart({ choice }: { choice: Choice }) {
  const { demand, units, chosen } = choice;
  const ids = new Set(chosen.chosen.map(({ blank }) => blank));
  const points = units
    .filter(({ species }) => species === demand.species)
    .toSorted((a, b) => a.weightKg - b.weightKg)
    .map((unit, i) => {
      const weight = unit.weightKg * demand.keepFraction + demand.othersKg;
      return { rank: i + 1, weight, taken: ids.has(unit.id) };
    });
  return (
    <Panel label="The stock">
      <Typography variant="h2">The whole stock, as it would weigh finished</Typography>
      <figure style={{ margin: 0 }} aria-label="Predicted finished weights of the stock">
        <ResponsiveContainer width="100%" height={210}>
          <ComposedChart data={points} margin={{ top: 8, right: 10, bottom: 14, left: 0 }} accessibilityLayer>
            <CartesianGrid stroke="var(--fibre)" vertical={false} />
            <ReferenceArea
              y1={demand.finishedKg.low}
              y2={demand.finishedKg.high}
              fill="var(--verdigris)"
              fillOpacity={0.16}
              ifOverflow="extendDomain"
              label={{
                value: 'window',
                position: 'insideTopLeft',
                fill: 'var(--verdigris)',
                fontWeight: 700,
                fontSize: 13,
              }}
            />
            <XAxis
              dataKey="rank"
              type="number"
              domain={[0, points.length + 1]}
              stroke="var(--umber)"
              tickLine={false}
              label={{
                value: 'blanks in stock, lightest first',
                position: 'insideBottom',
                offset: -8,
                fill: 'var(--umber)',
              }}
            />
            <YAxis
              domain={['auto', 'auto']}
              stroke="var(--umber)"
              tickLine={false}
              axisLine={false}
              tickFormatter={(value: number) => `${value.toFixed(1)} kg`}
              width={66}
            />
            {[
              { of: points.filter(({ taken }) => !taken), shape: hollow },
              { of: points.filter(({ taken }) => taken), shape: full },
            ]
              // A scatter without points of its own would take the chart's.
              .filter(({ of }) => of.length > 0)
              .map(({ of, shape }, i) => (
                <Scatter key={i} data={of} dataKey="weight" isAnimationActive={false} shape={shape} />
              ))}
          </ComposedChart>
        </ResponsiveContainer>
        <Typography component="figcaption" variant="inherit" color="textSecondary">
          ● chosen for {choice.batch} &nbsp; ◯ left for the others
        </Typography>
      </figure>
    </Panel>
  );
}

interface Mark {
  cx?: number;
  cy?: number;
}

const hollow = ({ cx, cy }: Mark) => (
  <circle cx={cx} cy={cy} r={3.6} fill="none" stroke="var(--umber)" strokeWidth={1.3} />
);
const full = ({ cx, cy }: Mark) => <circle cx={cx} cy={cy} r={4.6} fill="var(--ebony)" />;

function ChosenTable({ choice }: { choice: Choice }) {
  const rows = choice.chosen.chosen.flatMap((chosen) => {
    const unit = choice.units.find(({ id }) => id === chosen.blank);
    return unit ? [{ ...chosen, unit }] : [];
  });
  if (rows.length === 0) return null;
  const lineOf = (piece: number) => choice.wished.find(({ pieces }) => pieces.includes(piece))?.line;
  return (
    <Panel label="Chosen blanks">
      <Table>
        <TableHead>
          <TableRow>
            {['piece', 'blank', 'weight', 'figure', 'colour', 'moisture', 'finished', 'chamber'].map(
              (head) => (
                <TableCell key={head} scope="col">
                  {head}
                </TableCell>
              ),
            )}
          </TableRow>
        </TableHead>
        <TableBody>
          {rows.map(({ unit, piece, finishedKg, chamberKg }) => (
            <TableRow key={unit.id}>
              <TableCell>{[piece, lineOf(piece)].filter(Boolean).join(' for ')}</TableCell>
              <TableCell>
                <Link to={`/wood/lots/${unit.lot}`}>{unit.blanks.join(' + ')}</Link>
              </TableCell>
              <TableCell>{kg(unit.weightKg)} kg</TableCell>
              <TableCell>{unit.grade}</TableCell>
              <TableCell>{unit.colour ?? 'not sorted'}</TableCell>
              <TableCell>{unit.moisturePct === null ? '–' : `${unit.moisturePct.toFixed(1)} %`}</TableCell>
              <TableCell>{kg(finishedKg)} kg</TableCell>
              <TableCell>{chamberKg > 0 ? `take out ${kg(chamberKg)} kg` : ''}</TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
    </Panel>
  );
}

const NOT_WEIGHED = { piece: '', blankKg: '', finishedKg: '' };

function WeighBackForm({ choice }: { choice: Choice }) {
  const { perform, busy, refusal } = useWoodFiling();
  const { data: weighed = [] } = useWeighBacks(choice.model, choice.kind);
  const takeBack = (piece: string): Promise<unknown> =>
    perform(
      (by, key) =>
        answered(
          server.DELETE('/api/stock/weigh-backs', {
            params: { query: { by, key, model: choice.model, kind: choice.kind, piece } },
          }),
        ),
      (learnt) =>
        `${piece} no longer counts: ${choice.model} keeps ${learnt.mean.toFixed(3)}, from ${learnt.count} pieces.`,
    );
  const draft = useDraft(`weigh back ${choice.model} ${choice.kind}`, NOT_WEIGHED);
  const weigh = ({ piece, blankKg, finishedKg }: typeof NOT_WEIGHED): Promise<unknown> =>
    perform(
      (by, key) =>
        answered(
          server.POST('/api/stock/weigh-backs', {
            body: {
              ...{ key, by, model: choice.model, kind: choice.kind, piece: piece.trim() },
              ...{ blankKg: numberOf(blankKg), finishedKg: numberOf(finishedKg) },
            },
          }),
        ),
      (learnt) =>
        `${choice.model} now keeps ${learnt.mean.toFixed(3)} of a blank, ± ${learnt.sd.toFixed(3)}, from ${learnt.count} pieces.`,
    );
  return (
    <Form draft={draft} refusal={refusal} lay="stack" panel label="Weigh back" onFile={weigh}>
      <Typography variant="h2">Weighed back</Typography>
      <Typography color="textSecondary">
        A piece weighed as a blank and finished: the model learns what it keeps.
      </Typography>
      <Row>
        <AskWords name="piece" label="Piece" needed="its number" capitals most={40} width={120} />
        <AskNumber name="blankKg" label="Blank" unit="kg" {...MAY_BE.blankKg} width={110} />
        <AskNumber name="finishedKg" label="Finished" unit="kg" {...MAY_BE.blankKg} width={120} />
      </Row>
      <Box>
        <Button type="submit" disabled={busy}>
          Note it
        </Button>
      </Box>
      {weighed.length > 0 && (
        <Table size="small" aria-label="Weighed back so far">
          <TableBody>
            {weighed.slice(0, WEIGHED_SHOWN).map(({ piece, blankKg: from, finishedKg: to }) => (
              <TableRow key={piece}>
                <TableCell sx={{ whiteSpace: 'nowrap' }}>{piece}</TableCell>
                <TableCell>
                  {kg(from)} → {kg(to)} kg
                </TableCell>
                <TableCell>
                  <Button
                    size="small"
                    disabled={busy}
                    onClick={() => void takeBack(piece)}
                    aria-label={`Take back ${piece}`}
                  >
                    Take back
                  </Button>
                </TableCell>
              </TableRow>
            ))}
          </TableBody>
        </Table>
      )}
    </Form>
  );
}
