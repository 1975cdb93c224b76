import { MAY_BE } from '@ample-crane/core';
import { Box, Button, Stack, Table, TableBody, TableCell, TableRow, Typography } from '@mui/material';
import { Link, useParams } from 'react-router';
import { answered, server } from '../api/client.ts';
import { isoMinute, sayClock, sayTime, useFactoryNow } from '../shared/time.ts';
import { numberOf } from '../shared/typed.ts';
import { usePerform } from '../shared/usePerform.ts';
import { Verdict } from '../devices/Verdict.tsx';
import { AskNumber, Form, useDraft } from '../fields/index.ts';
import { Columns, Fold, Opening, Page, Panel, Reckoning, Refused } from '../parts/index.ts';
import { DataTable } from '../tables/DataTable.tsx';
import type { Column } from '../tables/column.ts';
import { FinishNav } from './FinishNav.tsx';
import { PanelChart } from './PanelChart.tsx';
import { usePanels, useRecipes, type Panel as TestPanel, type PanelOffer, type Panels } from './queries.ts';
import { rescaled } from './recipe-draft.ts';

/** Test panels: what each says, and the hours they offer their recipes. */
export default function PanelsPage() {
  const { code } = useParams();
  const { data, dataUpdatedAt, error } = usePanels();
  const nowMs = useFactoryNow(data, dataUpdatedAt);
  if (!data) return <Opening error={error} />;
  const shown =
    data.panels.find((panel) => panel.code === code) ??
    data.panels.find(({ fit }) => fit !== null) ??
    data.panels[0];
  return (
    <Page title="Test panels" tabs={<FinishNav />}>
      <Columns>
        <Stack>
          {!shown && (
            <Verdict
              tone="wait"
              sentence="No panel hangs yet. Spray one with a rack, weigh it, and hang it up from the rack’s page."
            />
          )}
          {shown && <OnePanel key={shown.code} panel={shown} zone={data.zone} nowMs={nowMs} />}
        </Stack>
        <Stack>
          <Offers panels={data} />
          <Panel label="All panels">
            <Typography variant="h2">All panels</Typography>
            <DataTable
              name="panels"
              label="All panels"
              noun="panel"
              rows={data.panels}
              rowKey={({ code: one }) => one}
              columns={columnsOf(data.zone, nowMs)}
              empty="No panel hangs yet."
            />
          </Panel>
        </Stack>
      </Columns>
    </Page>
  );
}

const columnsOf = (zone: string, nowMs: number): Column<TestPanel>[] => [
  {
    key: 'code',
    head: 'panel',
    of: ({ code }) => code,
    show: ({ code }) => <Link to={`/finish/panels/${code}`}>{code}</Link>,
    least: 72,
  },
  {
    key: 'batch',
    head: 'rack',
    of: ({ batch }) => batch,
    show: ({ batch }) => <Link to={`/finish/rack/${batch}`}>{batch}</Link>,
    least: 64,
  },
  { key: 'material', head: 'material', of: ({ material }) => material, choice: true, share: 1.4 },
  {
    key: 'cured',
    head: 'cured',
    of: ({ curedMs, notEnough }) => (curedMs === null ? notEnough : isoMinute(curedMs, zone)),
    show: ({ curedMs, notEnough }) =>
      curedMs === null ? notEnough : `${curedMs <= nowMs ? 'since' : 'by'} ${sayTime(curedMs, zone, nowMs)}`,
    share: 1.4,
  },
];

function OnePanel({ panel, zone, nowMs }: { panel: TestPanel; zone: string; nowMs: number }) {
  const { fit, curedMs } = panel;
  const cured = curedMs !== null && curedMs <= nowMs;
  const at = (hours: number): string => sayTime(panel.sprayedMs + hours * 3_600_000, zone, nowMs);
  const sentence = fit
    ? `${panel.code} ${cured ? 'is cured since' : 'will be cured by'} ${at(fit.curedAtHours)}, between ${at(fit.low90)} and ${at(fit.high90)}: ${panel.lostPct?.toFixed(1) ?? ''} % of its solvent is gone, τ ${fit.tauHours.toFixed(0)} h.`
    : `${panel.code} cannot tell yet: ${panel.notEnough ?? ''}.`;
  return (
    <Verdict tone={cured ? 'good' : fit ? 'hold' : 'wait'} sentence={sentence}>
      <Typography color="textSecondary">
        Sprayed with <Link to={`/finish/rack/${panel.batch}`}>{panel.batch}</Link>{' '}
        {sayClock(panel.sprayedMs, zone)}: {panel.material}, {panel.filmUm.toFixed(0)} µm dry, hangs in{' '}
        {panel.room}.
        {panel.referenceHours !== null &&
          ` It says ${panel.referenceHours.toFixed(0)} reference hours to buff.`}
      </Typography>
      <PanelChart panel={panel} zone={zone} />
      <Reckoning
        put={[
          ['weighings', String(panel.weighings.length)],
          ['dry film', `${panel.filmUm.toFixed(0)} µm`],
          ...(fit
            ? [
                ['time constant τ', `${fit.tauHours.toFixed(1)} h`] as const,
                ['cured', `${fit.curedAtHours.toFixed(0)} h after it was sprayed`] as const,
                ['90 of 100 between', `${fit.low90.toFixed(0)} and ${fit.high90.toFixed(0)} h`] as const,
              ]
            : []),
        ]}
        formula="Its weight follows m∞ + A · e^(−t / τ), found by least squares; it is cured when 2 of 100 parts of A are left. It says “not enough” below four weighings, before 1.5 τ, or when they scatter too much."
        source="The range is the profile of what the weighings differ from the curve."
      />
      <Weigh panel={panel} />
      <Fold name="Weighings">
        <Table>
          <TableBody>
            {panel.weighings.toReversed().map((one) => (
              <TableRow key={one.atMs}>
                <TableCell>{sayClock(one.atMs, zone)}</TableCell>
                <TableCell align="right">{one.hours.toFixed(1)} h</TableCell>
                <TableCell align="right">{one.grams.toFixed(3)} g</TableCell>
                <TableCell className="quiet">{one.person}</TableCell>
              </TableRow>
            ))}
          </TableBody>
        </Table>
      </Fold>
    </Verdict>
  );
}

function Weigh({ panel }: { panel: TestPanel }) {
  const { perform, busy, refusal } = usePerform();
  const draft = useDraft(`weigh ${panel.code}`, { grams: '' });
  const weigh = ({ grams }: { grams: string }): Promise<unknown> =>
    perform(
      (by, key) =>
        answered(
          server.POST('/api/finish/panels/{code}/weighings', {
            params: { path: { code: panel.code } },
            body: { key, by, grams: numberOf(grams) },
          }),
        ),
      ({ weighings }) => `${panel.code}: weighing ${weighings.length} kept.`,
    );
  return (
    <Form draft={draft} refusal={refusal} lay="row" style={{ margin: '8px 0' }} onFile={weigh}>
      <AskNumber name="grams" label="Weight now" unit="g" {...MAY_BE.panelG} width={150} />
      <Button type="submit" variant="contained" disabled={busy}>
        Keep the weighing
      </Button>
    </Form>
  );
}

/** The hours its panels offer a recipe, with their spread; taking them makes a new revision. */
function Offers({ panels }: { panels: Panels }) {
  if (panels.offers.length === 0) return null;
  return (
    <Panel label="Hours offered">
      <Typography variant="h2">Hours offered</Typography>
      <Typography color="textSecondary">
        What the panels so far say of each material, at the recipe’s own film.
      </Typography>
      {panels.offers.map((offer) => (
        <Offer key={`${offer.recipe}${offer.step}`} offer={offer} />
      ))}
    </Panel>
  );
}

function Offer({ offer }: { offer: PanelOffer }) {
  const { perform, busy, refused } = usePerform();
  const { data: recipes } = useRecipes();
  const newest = recipes?.recipes.find(({ name, newest: isNewest }) => name === offer.recipe && isNewest);
  const { hours, sd, panels } = offer.offered;
  const take = (): Promise<unknown> =>
    perform(
      (by, key) => {
        if (!newest) throw new Error('take: the recipe is not loaded');
        const recipe = rescaled(newest.recipe, offer.step, Math.round(hours));
        const note = `hours to buff from ${panels} test panels: ${Math.round(hours)}${sd === null ? '' : ` ± ${sd.toFixed(0)}`}`;
        return answered(
          server.POST('/api/finish/recipes', { body: { key, by, recipe, note, from: newest.revision } }),
        );
      },
      ({ id }) => `${id} is made; racks opened from now on get it.`,
    );
  return (
    <Box style={{ marginTop: 8 }}>
      <Typography>
        <Link to={`/finish/recipes/${offer.recipe}`}>{newest?.recipe.title ?? offer.recipe}</Link>,{' '}
        {offer.material}: <strong>{hours.toFixed(0)} h</strong>{' '}
        {sd === null ? 'from one panel' : `± ${sd.toFixed(0)} from ${panels} panels`}, the recipe has{' '}
        {offer.hoursNow.toFixed(0)} h.
      </Typography>
      {Math.abs(hours - offer.hoursNow) >= 1 && (
        <Button disabled={busy || !newest} onClick={() => void take()}>
          Take {hours.toFixed(0)} h into the recipe
        </Button>
      )}
      <Refused words={refused} />
    </Box>
  );
}
