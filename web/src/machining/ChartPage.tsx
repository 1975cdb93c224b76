import { limitsWords, RUN_RULES, strongestHit, type RunRule } from '@ample-crane/core';
import { Box, Checkbox, FormControlLabel, Link as MuiLink, Stack, Typography } from '@mui/material';
import { useMemo } from 'react';
import { useParams } from 'react-router';
import { answered, server } from '../api/client.ts';
import { usePerform } from '../shared/usePerform.ts';
import { LastChange } from '../changes/LastChange.tsx';
import { useSeenChange } from '../changes/useSeenChange.ts';
import { Verdict } from '../devices/Verdict.tsx';
import { Columns, Opening, Page, Panel, Quiet, Refused } from '../parts/index.ts';
import { DataTable } from '../tables/DataTable.tsx';
import { moment } from '../tables/column.ts';
import { readChart, type ChartRead } from './chart-data.ts';
import { ControlCharts } from './ControlCharts.tsx';
import { MillNav } from './MillNav.tsx';
import { useChart, type Chart } from './queries.ts';
import './ChartPage.css';

const RULES = Object.keys(RUN_RULES) as RunRule[];

/** One dimension: its control chart, what it is capable of, and the values behind it. */
export default function ChartPage() {
  const { model = '', kind = '', check = '' } = useParams();
  const { data, error } = useChart(model, kind, check);
  if (!data) return <Opening error={error} />;
  return <OneChart key={`${model}${kind}${check}`} data={data} />;
}

function OneChart({ data }: { data: Chart }) {
  const read = useMemo(() => readChart(data, data.rules), [data]);
  const { check, model, kind, operationName } = data;
  return (
    <Page
      title={
        <>
          {model} {kind}: {check.name}
        </>
      }
      tabs={<MillNav />}
    >
      <Columns>
        <Stack>
          <Verdict tone={read.tone} sentence={read.sentence}>
            <Typography color="textSecondary">
              Measured at {operationName}, limits {limitsWords(check)}, nominal {check.nominal} {check.unit};{' '}
              {check.sample === 1 ? 'single pieces' : `${check.sample} pieces of each load`}.
            </Typography>
          </Verdict>
          <Panel label="Control chart">
            {read.chart ? (
              <ControlCharts data={data} read={read} />
            ) : (
              <Typography color="textSecondary">
                A chart needs two looks; there {read.looks.length === 1 ? 'is one' : 'are none'}.
              </Typography>
            )}
          </Panel>
        </Stack>
        <Stack>
          <CapabilityPanel data={data} read={read} />
          <RulesPanel rules={data.rules} />
          <Values data={data} read={read} />
        </Stack>
      </Columns>
    </Page>
  );
}

function CapabilityPanel({ data, read }: { data: Chart; read: ChartRead }) {
  const { capability, chart } = read;
  const { count } = read;
  return (
    <Panel label="Capability">
      <Typography variant="h2">Capability</Typography>
      {capability ? (
        <>
          <Typography className="bigline">
            {capability.cp !== null && <>Cp {capability.cp.toFixed(2)} · </>}Cpk {capability.cpk.toFixed(2)}
          </Typography>
          <Typography color="textSecondary">
            {capability.count} values, mean {capability.mean.toFixed(3)}, σ within{' '}
            {capability.sigma.toFixed(4)} {data.check.unit} (R̄ / d₂); {outsideWords(capability.outsidePct)}{' '}
            outside the limits if they are normal.
          </Typography>
        </>
      ) : (
        <Typography color="textSecondary">
          {chart && count >= 25
            ? 'The values do not vary: no Cp or Cpk.'
            : `Not enough yet: ${count} of 25 values.`}
        </Typography>
      )}
    </Panel>
  );
}

const outsideWords = (pct: number): string => (pct < 0.01 ? 'less than 0.01 %' : `${pct.toFixed(2)} %`);

function RulesPanel({ rules }: { rules: readonly RunRule[] }) {
  const { perform, busy, refused } = usePerform();
  const { lastChange, lookAgain } = useSeenChange();
  const turn = async (rule: RunRule, on: boolean): Promise<void> => {
    const turned = RULES.filter((one) => (one === rule ? on : rules.includes(one)));
    await perform(
      (by, key) =>
        answered(
          server.PUT('/api/checks/rules', { body: { by, key, lastChange: lastChange(), rules: turned } }),
        ),
      () => 'The run rules are switched for the whole works',
    );
    void lookAgain();
  };
  return (
    <Panel label="Run rules">
      <Typography variant="h2">
        Run rules <Quiet small>for the whole works</Quiet>
      </Typography>
      {RULES.map((rule) => (
        <FormControlLabel
          key={rule}
          sx={{ display: 'flex' }}
          control={
            <Checkbox
              size="small"
              checked={rules.includes(rule)}
              disabled={busy}
              onChange={(_, on) => void turn(rule, on)}
            />
          }
          label={RUN_RULES[rule].name}
        />
      ))}
      <LastChange setting="run rules" />
      <Refused words={refused} />
    </Panel>
  );
}

/** A look, and what the run rules or the limits say of it. */
type Told = Chart['points'][number] & { at: number; told: string | null };

function Values({ data, read }: { data: Chart; read: ChartRead }) {
  const { model, kind, check, zone } = data;
  const told = (at: number): string | null => {
    const outside = read.outside.find((one) => one.at === at);
    if (outside) return `outside ${limitsWords(check)}`;
    const hit = strongestHit(read.hits, at);
    if (hit) return RUN_RULES[hit.rule].name;
    return read.rangeHits.some((one) => one.at === at) ? 'range beyond its limits' : null;
  };
  return (
    <Panel label="Values">
      <Typography variant="h2">Values</Typography>
      <MuiLink href={`/api/checks/${encodeURIComponent(model)}/${kind}/${check.key}/values.csv`} download>
        All as CSV
      </MuiLink>
      <DataTable
        name="values"
        label="Values"
        noun="look"
        rows={data.points.map((point, at) => ({ ...point, at, told: told(at) })).toReversed()}
        rowKey={({ at }) => at}
        columns={[
          moment<Told>({ key: 'when', head: 'when', ms: ({ atMs }) => atMs, zone }),
          { key: 'batch', head: 'batch', of: ({ batch }) => batch, least: 64 },
          {
            key: 'values',
            head: `values, ${check.unit}`,
            of: ({ values }) => values.map((value) => value.toFixed(2)).join('  '),
          },
          {
            key: 'told',
            head: 'said of it',
            of: ({ told: words }) => words,
            show: ({ told: words }) => (
              <Box component="span" sx={{ color: 'error.main' }}>
                {words}
              </Box>
            ),
            choice: true,
          },
        ]}
        attention={({ told: words }) => words !== null}
        empty="Nothing is measured yet."
        tallest="420px"
      />
    </Panel>
  );
}
