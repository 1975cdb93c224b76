import { MAY_BE } from '@ample-crane/core';
import { cautionWords, count, spanWords } from '@ample-crane/core';
import {
  Box,
  Checkbox,
  FormControlLabel,
  Button,
  Stack,
  Table,
  TableBody,
  TableCell,
  TableHead,
  TableRow,
  Typography,
} from '@mui/material';
import { useState } from 'react';
import { answered, server } from '../api/client.ts';
import { dueInstant, isoDate, sayDate, sayTime, useFactoryNow } from '../shared/time.ts';
import { numberOf } from '../shared/typed.ts';
import { usePerform } from '../shared/usePerform.ts';
import { Caution } from '../devices/Caution.tsx';
import { Verdict } from '../devices/Verdict.tsx';
import {
  AskChoice,
  AskDay,
  AskFrom,
  AskNumber,
  asOptions,
  AskWords,
  Form,
  useDraft,
} from '../fields/index.ts';
import { Columns, Opening, Page, Panel, Quiet, Refused, Row } from '../parts/index.ts';
import { DataTable } from '../tables/DataTable.tsx';
import { moment, type Column } from '../tables/column.ts';
import { maybeWords } from '../shared/typed.ts';
import { FinishNav } from './FinishNav.tsx';
import { useMaterials, type Material, type Materials } from './queries.ts';

/** Longest code of a lot. */
const LONGEST_CODE = 20;

/** Lots of material, what is mixed, and which racks ahead the stock reaches. */
export default function MaterialsPage() {
  const { data, dataUpdatedAt, error } = useMaterials();
  const nowMs = useFactoryNow(data, dataUpdatedAt);
  if (!data) return <Opening error={error} />;
  return (
    <Page title="Materials" tabs={<FinishNav />}>
      <Columns>
        <Stack>
          <Verdict {...verdictOf(data)} />
          <Panel label="Stock">
            <Table>
              <TableHead>
                <TableRow>
                  <TableCell scope="col">material</TableCell>
                  <TableCell scope="col" align="right">
                    usable
                  </TableCell>
                  <TableCell scope="col" align="right">
                    planned
                  </TableCell>
                  <TableCell scope="col">reaches</TableCell>
                </TableRow>
              </TableHead>
              <TableBody>
                {data.materials.map((one) => (
                  <MaterialLine key={one.material} one={one} materials={data} nowMs={nowMs} />
                ))}
              </TableBody>
            </Table>
            <Typography color="textSecondary" style={{ marginTop: 8 }}>
              Planned: the coats still to come on every open rack, and on the instruments its bodies will
              become, by their recipes: area, wet film, what lands, what is mixed in. Racks draw in the order
              in which they can come at the soonest. Coats draw from the lot or mix they came out of.
            </Typography>
          </Panel>
          <Lots materials={data} nowMs={nowMs} />
        </Stack>
        <Stack>
          <MixPanel materials={data} nowMs={nowMs} />
          <ReceivePanel materials={data} />
          <Caution words={cautionWords('isocyanates')} />
        </Stack>
      </Columns>
    </Page>
  );
}

function verdictOf({ materials, nowMs, zone }: Materials): { tone: 'good' | 'wait'; sentence: string } {
  const short = materials.filter((one) => isShort(one, nowMs));
  if (short.length > 0)
    return {
      tone: 'wait',
      sentence: `Order now: ${short
        .map(
          ({ material, supply, leadDays }) =>
            `${material} does not reach ${supply.runsOut?.batch ?? ''}, more takes ${count(leadDays, 'day')}`,
        )
        .join('; ')}.`,
    };
  const [next] = materials
    .flatMap(({ material, supply: { runsOut } }) => (runsOut ? [{ material, ...runsOut }] : []))
    .toSorted((a, b) => a.atMs - b.atMs);
  return {
    tone: 'good',
    sentence: next
      ? `Nothing runs out before more can come; ${next.material} is first: ${next.batch} may want it ${sayTime(next.atMs, zone, nowMs, FORECAST_RANGE_MS)}.`
      : 'The stock reaches every open rack.',
  };
}

/** Racks come when they can: a moment that far ahead is said to the day. */
const FORECAST_RANGE_MS = 3 * 24 * 3_600_000;

const isShort = ({ supply, leadDays }: Material, nowMs: number): boolean =>
  supply.runsOut !== null && supply.runsOut.atMs - nowMs < leadDays * 24 * 3_600_000;

function MaterialLine({ one, materials, nowMs }: { one: Material; materials: Materials; nowMs: number }) {
  const { supply } = one;
  const short = isShort(one, nowMs);
  return (
    <TableRow>
      <TableCell>
        {one.material}
        {one.mix && (
          <Quiet block>
            mixed {one.mix.parts.map(({ parts }) => parts).join(' : ')}, {one.mix.potLifeHours} h
          </Quiet>
        )}
      </TableCell>
      <TableCell align="right">{supply.litres.toFixed(1)} l</TableCell>
      <TableCell align="right">{supply.plannedLitres.toFixed(1)} l</TableCell>
      <TableCell className={short ? 'attention' : undefined}>
        {supply.plannedLitres === 0 && 'not planned'}
        {supply.plannedLitres > 0 && !supply.runsOut && 'all of them'}
        {supply.runsOut && (
          <>
            not {supply.runsOut.batch},{' '}
            {supply.runsOut.atMs <= nowMs
              ? 'now'
              : sayTime(supply.runsOut.atMs, materials.zone, nowMs, FORECAST_RANGE_MS)}
            <Quiet block>{supply.shortLitres.toFixed(1)} l missing</Quiet>
          </>
        )}
        {supply.wastedLitres > 0.05 && (
          <Quiet block>{supply.wastedLitres.toFixed(1)} l past their date first</Quiet>
        )}
      </TableCell>
    </TableRow>
  );
}

type Lot = Material['lots'][number] & { material: string };

const isPast = ({ expiresMs }: Lot, nowMs: number): boolean => expiresMs !== null && expiresMs < nowMs;

const stateWords = ({ openedMs, finishedMs }: Lot): string =>
  finishedMs !== null ? 'used up' : openedMs === null ? 'closed' : 'open';

const lotColumns = (zone: string, nowMs: number): Column<Lot>[] => [
  { key: 'lot', head: 'lot', of: ({ code }) => code, show: ({ code }) => <strong>{code}</strong>, least: 80 },
  { key: 'material', head: 'material', of: ({ material }) => material, choice: true, share: 1.5 },
  { key: 'left', head: 'left, l', of: ({ leftLitres }) => leftLitres, digits: 1, sum: true },
  { key: 'of', head: 'came in, l', of: ({ litres }) => litres, digits: 1 },
  { key: 'state', head: 'is', of: stateWords, choice: true, least: 70 },
  moment({ key: 'opened', head: 'opened', ms: ({ openedMs }) => openedMs, zone, hidden: true }),
  {
    key: 'until',
    head: 'good until',
    of: ({ expiresMs }) => (expiresMs === null ? null : isoDate(expiresMs, zone)),
    show: (lot) =>
      lot.expiresMs !== null && (
        <span className={isPast(lot, nowMs) ? 'attention' : undefined}>
          {isPast(lot, nowMs) && 'past '}
          {sayDate(lot.expiresMs, zone)}
        </span>
      ),
    least: 100,
  },
  {
    key: 'turn',
    head: '',
    of: () => null,
    show: (lot) => lot.finishedMs === null && <TurnLot lot={lot} />,
    least: 86,
  },
];

/** Every lot that is not used up; those that are can be asked for. */
function Lots({ materials, nowMs }: { materials: Materials; nowMs: number }) {
  const [all, setAll] = useState(false);
  const lots = materials.materials
    .flatMap(({ material, lots: own }) => own.map((lot): Lot => ({ ...lot, material })))
    .filter(({ finishedMs }) => all || finishedMs === null);
  return (
    <Panel label="Lots">
      <Row style={{ justifyContent: 'space-between' }}>
        <Typography variant="h2">Lots</Typography>
        <FormControlLabel
          control={<Checkbox size="small" checked={all} onChange={(_, on) => setAll(on)} />}
          label="with those used up"
        />
      </Row>
      <DataTable
        name="material-lots"
        label="Lots of material"
        noun="lot"
        rows={lots}
        rowKey={({ code }) => code}
        columns={lotColumns(materials.zone, nowMs)}
        attention={(lot) => lot.finishedMs === null && isPast(lot, nowMs)}
        empty="No lot is in stock."
      />
    </Panel>
  );
}

function TurnLot({ lot }: { lot: Lot }) {
  const { perform, busy, refused } = usePerform();
  const turn = (to: 'open' | 'finished'): Promise<unknown> =>
    perform(
      (by, key) =>
        answered(
          server.POST('/api/finish/materials/lots/{code}', {
            params: { path: { code: lot.code } },
            body: { key, by, to },
          }),
        ),
      () => (to === 'open' ? `Lot ${lot.code} is open.` : `Lot ${lot.code} is used up.`),
    );
  return (
    <Box>
      <Button
        size="small"
        disabled={busy}
        aria-label={lot.openedMs === null ? `Open ${lot.code}` : `${lot.code} is used up`}
        onClick={() => void turn(lot.openedMs === null ? 'open' : 'finished')}
      >
        {lot.openedMs === null ? 'Open it' : 'Used up'}
      </Button>
      <Refused words={refused} />
    </Box>
  );
}

function MixPanel({ materials, nowMs }: { materials: Materials; nowMs: number }) {
  const { perform, busy, refusal } = usePerform();
  const ending = usePerform();
  const mixed = materials.materials.filter(({ mix }) => mix !== null);
  const empty = { material: mixed[0]?.material ?? '', litres: '', because: '' };
  const draft = useDraft('mix', empty, { keep: ['material'] });
  const { zone } = materials;
  const make = ({ material, litres, because }: typeof empty): Promise<unknown> =>
    perform(
      (by, key) =>
        answered(
          server.POST('/api/finish/materials/mixes', {
            body: {
              ...{ key, by, material, litres: numberOf(litres) },
              ...maybeWords('because', because),
            },
          }),
        ),
      ({ mixes }) => `Mix ${mixes[0]?.code ?? ''} of ${material}: its pot life runs.`,
    );
  const end = (code: string): Promise<unknown> =>
    ending.perform(
      (by, key) =>
        answered(
          server.POST('/api/finish/materials/mixes/{code}/end', {
            params: { path: { code } },
            body: { key, by },
          }),
        ),
      () => `Mix ${code} is put away.`,
    );
  return (
    <Panel label="Mixes">
      <Typography variant="h2">Mixed</Typography>
      {materials.mixes.length === 0 && <Typography color="textSecondary">Nothing is mixed now.</Typography>}
      {materials.mixes.map((mix) => {
        const left = (mix.endsMs - nowMs) / 3_600_000;
        return (
          <Row key={mix.code} style={{ justifyContent: 'space-between', marginTop: 4 }}>
            <span className={left < 1 ? 'attention' : undefined}>
              <strong>{mix.code}</strong> {mix.material}, {mix.leftLitres.toFixed(1)} l;{' '}
              {left > 0
                ? `${spanWords(left)} of pot life, to ${sayTime(mix.endsMs, zone, nowMs)}`
                : `past its pot life since ${sayTime(mix.endsMs, zone, nowMs)}`}
              <Quiet> {sourcesWords(mix)}</Quiet>
            </span>
            <Button size="small" disabled={ending.busy} onClick={() => void end(mix.code)}>
              Used up
            </Button>
          </Row>
        );
      })}
      {mixed.length > 0 && (
        <Form draft={draft} refusal={refusal} lay="row" style={{ marginTop: 8 }} onFile={make}>
          <AskChoice
            name="material"
            label="Mix"
            options={asOptions(mixed.map((one) => one.material))}
            needed="which one"
            width={160}
          />
          <AskNumber name="litres" label="Mixed" unit="l" {...MAY_BE.litres} width={100} />
          {refusal && <AskWords name="because" label="Mix it anyway, because" width={190} />}
          <Button type="submit" variant="contained" disabled={busy}>
            Mixed now
          </Button>
        </Form>
      )}
      <Refused words={ending.refused} />
    </Panel>
  );
}

/** 'of CS-24, hardener HD-06, thinner TH-31'; nothing where no lots are noted. */
function sourcesWords({ lot, additions }: Materials['mixes'][number]): string {
  const parts = [
    ...(lot === null ? [] : [lot]),
    ...additions.flatMap((one) => (one.lot === null ? [] : [`${one.material} ${one.lot}`])),
  ];
  return parts.length > 0 ? `of ${parts.join(', ')}` : '';
}

const NO_LOT = { code: '', material: '', litres: '', expiresAt: '' };

function ReceivePanel({ materials }: { materials: Materials }) {
  const { perform, busy, refusal } = usePerform();
  const draft = useDraft('lot of material', NO_LOT, { keep: ['material'] });
  const receive = ({ code, material, litres, expiresAt }: typeof NO_LOT): Promise<unknown> =>
    perform(
      (by, key) =>
        answered(
          server.POST('/api/finish/materials/lots', {
            body: {
              ...{ key, by, code: code.trim(), material, litres: numberOf(litres) },
              ...(expiresAt ? { expiresAt: dueInstant(expiresAt, materials.zone) } : {}),
            },
          }),
        ),
      () => `Lot ${code.trim()} is in stock.`,
    );
  return (
    <Panel label="A lot came in">
      <Typography variant="h2">A lot came in</Typography>
      <Form draft={draft} refusal={refusal} lay="row" onFile={receive}>
        <AskWords name="code" label="Lot" needed="its code" capitals most={LONGEST_CODE} width={110} />
        <AskFrom
          name="material"
          label="Material"
          options={asOptions(materials.materials.map((one) => one.material))}
          needed="which one"
          width={190}
        />
        <AskNumber name="litres" label="Came in" unit="l" {...MAY_BE.litres} width={100} />
        <AskDay name="expiresAt" label="Good until" zone={materials.zone} width={180} />
        <Button type="submit" disabled={busy}>
          Take it in
        </Button>
      </Form>
    </Panel>
  );
}
