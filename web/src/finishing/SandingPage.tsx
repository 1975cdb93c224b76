import { rangeOf, type ListedView } from '@ample-crane/core';
import { Box, Stack, Typography } from '@mui/material';
import { Link } from 'react-router';
import { sayTime, useFactoryNow } from '../shared/time.ts';
import { Verdict } from '../devices/Verdict.tsx';
import { Opening, Page, Panel, Quiet } from '../parts/index.ts';
import { DataTable } from '../tables/DataTable.tsx';
import type { Column } from '../tables/column.ts';
import { FinishNav } from './FinishNav.tsx';
import { useFinishList, type ListedRack } from './queries.ts';
import { shareWords } from './words.ts';

interface Planned {
  rack: ListedRack;
  view: ListedView;
  sanding: NonNullable<ListedView['sanding']>;
}

/** The sanding to come for every rack: grits, what it takes, and the share of pieces that would go through. */
export default function SandingPage() {
  const { data, dataUpdatedAt, error } = useFinishList();
  const nowMs = useFactoryNow(data, dataUpdatedAt);
  if (!data) return <Opening error={error} />;
  const planned = data.racks
    .flatMap((rack) =>
      rack.views.flatMap((view): Planned[] => (view.sanding ? [{ rack, view, sanding: view.sanding }] : [])),
    )
    .sort((a, b) => b.sanding.thinShare - a.sanding.thinShare || a.rack.batch.localeCompare(b.rack.batch));
  const worst = planned[0];
  const thin = planned.filter(({ sanding }) => sanding.thinShare >= 0.01);
  return (
    <Page title="Sanding plan" tabs={<FinishNav />}>
      <Stack style={{ padding: '0 16px 20px' }}>
        <Verdict
          tone={thin.length > 0 ? 'wait' : 'good'}
          sentence={
            !worst
              ? 'No rack in finish has a sanding ahead.'
              : thin.length === 0
                ? `Sand as planned: no rack would lose more than one piece in a hundred; closest is ${worst.rack.batch}, ${worst.sanding.leftUm.toFixed(0)} µm left of at least ${worst.sanding.minimumUm} µm.`
                : `Mind ${thin.map(({ rack }) => rack.batch).join(', ')}: ${worst.rack.batch} would have ${shareWords(worst.sanding.thinShare)} of its pieces thinner than ${worst.sanding.minimumUm} µm. Sand less, or lay a coat more.`
          }
        />
        {planned.length > 0 && (
          <Panel label="Sanding to come">
            <DataTable
              name="sanding"
              label="Sanding to come"
              noun="sanding"
              rows={planned}
              rowKey={({ rack, view }) =>
                `${rack.batch}${view.operation}${view.standing}${view.positions[0] ?? 0}`
              }
              columns={columnsOf((view) =>
                whenWords(view, (ms, rangeMs) => sayTime(ms, data.zone, nowMs, rangeMs)),
              )}
              attention={({ sanding }) => sanding.thinShare >= 0.01}
              empty=""
            />
            <Typography color="textSecondary" style={{ marginTop: 8 }}>
              The build is what lies on the pieces, with the coats of the recipe that are still to come; its
              spread is that of the wet film readings where every piece was read, the recipe’s otherwise.
              Build and removal are taken as normal and independent. Nothing is refused here.
            </Typography>
          </Panel>
        )}
      </Stack>
    </Page>
  );
}

const columnsOf = (when: (view: ListedView) => string): Column<Planned>[] => [
  {
    key: 'rack',
    head: 'rack',
    of: ({ rack }) => rack.batch,
    show: ({ rack, view }) => (
      <Box>
        <Link to={`/finish/rack/${rack.batch}`}>{rack.batch}</Link>
        <Quiet block>
          {rack.model}, {view.positions.length}
        </Quiet>
      </Box>
    ),
  },
  { key: 'model', head: 'model', of: ({ rack }) => rack.model, choice: true, hidden: true },
  { key: 'when', head: 'when', of: ({ view }) => when(view), least: 120 },
  {
    key: 'sanding',
    head: 'sanding',
    of: ({ sanding }) => `${sanding.name}: ${sanding.grits.join(' → ')}`,
    show: ({ sanding }) => (
      <Box>
        {sanding.name}
        <Quiet block>{sanding.grits.join(' → ')}</Quiet>
      </Box>
    ),
    share: 1.3,
    least: 150,
  },
  {
    key: 'build',
    head: 'build',
    unit: 'µm',
    of: ({ sanding }) => sanding.leftUm + sanding.removalUm,
    digits: 0,
  },
  { key: 'takes', head: 'takes', unit: 'µm', of: ({ sanding }) => sanding.removalUm, digits: 0 },
  { key: 'leaves', head: 'leaves', unit: 'µm', of: ({ sanding }) => sanding.leftUm, digits: 0 },
  {
    key: 'left',
    head: 'left, 90 % of pieces',
    of: ({ sanding: { leftUm, sdUm } }) =>
      `${(leftUm - 1.645 * sdUm).toFixed(0)} to ${(leftUm + 1.645 * sdUm).toFixed(0)} µm`,
    show: ({ sanding }) => <Left sanding={sanding} />,
    least: WIDTH + 12,
  },
  {
    key: 'thin',
    head: 'under minimum',
    of: ({ sanding }) => 100 * sanding.thinShare,
    digits: 1,
    show: ({ sanding }) => (
      <span className={sanding.thinShare >= 0.01 ? 'attention' : undefined}>
        {shareWords(sanding.thinShare)}
      </span>
    ),
  },
  {
    key: 'through',
    head: 'through',
    of: ({ sanding }) => 100 * sanding.throughShare,
    digits: 1,
    show: ({ sanding }) => shareWords(sanding.throughShare),
  },
];

/** When it may be sanded: now, when its cure is over, or after the work it is at. */
function whenWords(view: ListedView, time: (ms: number, rangeMs: number) => string): string {
  if (view.next === 'sand' || view.next === 'buff')
    return view.ready ? 'now' : view.fromMs === null ? 'no date yet' : time(view.fromMs, rangeOf(view));
  return view.standing === 'inHand' && view.coat === null ? 'in hand' : `after ${view.operationName}`;
}

const WIDTH = 190;
const HEIGHT = 22;
const SCALE_UM = 130;

/** Where the film of nine pieces in ten would end, against the minimum. */
function Left({ sanding }: { sanding: Planned['sanding'] }) {
  const x = (um: number): number => Math.max(0, Math.min(WIDTH, (um / SCALE_UM) * WIDTH));
  const low = sanding.leftUm - 1.645 * sanding.sdUm;
  const high = sanding.leftUm + 1.645 * sanding.sdUm;
  return (
    <svg
      width={WIDTH}
      height={HEIGHT}
      role="img"
      aria-label={`${low.toFixed(0)} to ${high.toFixed(0)} µm, minimum ${sanding.minimumUm} µm`}
    >
      <rect x={0} y={6} width={x(sanding.minimumUm)} height={10} fill="var(--bone)" stroke="var(--fibre)" />
      <path d={`M${x(sanding.minimumUm)} 2V20`} stroke="var(--oxblood)" strokeDasharray="3 2" />
      <rect x={x(low)} y={8} width={x(high) - x(low)} height={6} fill="var(--maple)" stroke="var(--umber)" />
      <path d={`M${x(sanding.leftUm)} 5V17`} stroke="var(--ebony)" strokeWidth={2} />
    </svg>
  );
}
