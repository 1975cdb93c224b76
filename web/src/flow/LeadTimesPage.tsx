import { LEAD_PART_WORDS, LEAD_PARTS, type LeadPart } from '@ample-crane/core';
import { Box, MenuItem, Stack, TextField, Typography } from '@mui/material';
import { Link } from 'react-router';
import { Verdict } from '../devices/Verdict.tsx';
import { Columns, Panel, Quiet, Reckoning, Row } from '../parts/index.ts';
import { STAGE_NAMES } from '../shared/stages.ts';
import { sayDay } from '../shared/time.ts';
import { useInAddress } from '../shared/useInAddress.ts';
import { DataTable } from '../tables/DataTable.tsx';
import { moment, type Column } from '../tables/column.ts';
import { CumulativeChart } from './CumulativeChart.tsx';
import { FlowOf } from './FlowOf.tsx';
import { PartsBar, PartsKey } from './PartsBar.tsx';
import { useLeadTimes, type LeadTimes } from './queries.ts';
import { inTimeSentence, lateWords, leadSentence } from './words.ts';
import { useWindow, WindowChoice } from './WindowChoice.tsx';
import { WipPanel } from './WipPanel.tsx';

const ALL = 'all';

/** Where the lead time of what left went: stage by stage, and instrument by instrument. */
export default function LeadTimesPage() {
  const days = useWindow();
  const { asked, ask } = useInAddress();
  const model = asked('model');
  return (
    <FlowOf asked={useLeadTimes(days, model)}>
      {(data) => <Times data={data} days={days} model={model} onModel={(name) => ask('model', name)} />}
    </FlowOf>
  );
}

function Times(props: { data: LeadTimes; days: number; model: string; onModel: (model: string) => void }) {
  const { data, days, model, onModel } = props;
  const most = Math.max(1, ...data.stages.map(({ parts }) => sumOf(parts)));
  return (
    <Columns>
      <Stack>
        <Verdict {...leadSentence(data)}>
          {data.late && <Typography>{inTimeSentence(data.late)}</Typography>}
          <Typography color="textSecondary">
            Instruments that left {sayDay(data.fromDay)} to {sayDay(data.toDay)}, from the first board of the
            part that came last.
          </Typography>
          <Reckoning
            put={LEAD_PARTS.map((part) => [LEAD_PART_WORDS[part], `${data.parts[part].toFixed(1)} days`])}
            formula="Every stay of an instrument, and before it of the part it waited for, counts once: waiting and being worked on in hours that are worked, what lies between as nights and closed days, rests by the clock on the wall. What it was sent back for is done over again until it stands where that was found."
            source="The parts of each add up to its lead time to the millisecond (a test shows it)."
          />
        </Verdict>
        <Panel label="Stage by stage">
          <Row style={{ justifyContent: 'space-between' }}>
            <WindowChoice />
            <TextField
              select
              label="Model"
              value={data.models.includes(model) ? model : ALL}
              onChange={(event) => onModel(event.target.value === ALL ? '' : event.target.value)}
              sx={{ width: 160 }}
            >
              <MenuItem value={ALL}>All models</MenuItem>
              {data.models.map((name) => (
                <MenuItem key={name} value={name}>
                  {name}
                </MenuItem>
              ))}
            </TextField>
          </Row>
          <PartsKey />
          {data.stages.map(({ stage, parts }) => (
            <Box
              key={stage}
              sx={{
                display: 'grid',
                gridTemplateColumns: '110px 1fr 76px',
                gap: '10px',
                alignItems: 'center',
                margin: '8px 0',
              }}
            >
              <Typography sx={{ fontWeight: 600 }}>{STAGE_NAMES[stage]}</Typography>
              <PartsBar parts={parts} most={most} name={STAGE_NAMES[stage]} />
              <Typography align="right">{sumOf(parts).toFixed(1)} days</Typography>
            </Box>
          ))}
        </Panel>
        <CumulativeChart days={days} />
        <WipPanel days={days} />
        <Panel label="Instrument by instrument">
          <DataTable
            name="lead-times"
            label="Instruments that left"
            noun="instrument"
            rows={data.lines}
            rowKey={({ piece }) => piece}
            columns={columnsOf(data.zone)}
            empty="Nothing left in that time."
          />
          {data.more && <Quiet block>The newest of them.</Quiet>}
        </Panel>
      </Stack>
      <Panel label="On average">
        <Typography variant="h2">On average</Typography>
        {LEAD_PARTS.map((part) => (
          <Typography key={part} sx={{ display: 'flex', justifyContent: 'space-between' }}>
            <span>{LEAD_PART_WORDS[part]}</span> <strong>{data.parts[part].toFixed(1)} days</strong>
          </Typography>
        ))}
        <Typography sx={{ display: 'flex', justifyContent: 'space-between', marginTop: '6px' }}>
          <span>in all</span> <strong>{sumOf(data.parts).toFixed(1)} days</strong>
        </Typography>
      </Panel>
    </Columns>
  );
}

const sumOf = (parts: Record<LeadPart, number>): number =>
  LEAD_PARTS.reduce((sum, part) => sum + parts[part], 0);

type Line = LeadTimes['lines'][number];

const columnsOf = (zone: string): Column<Line>[] => [
  {
    key: 'piece',
    head: 'instrument',
    of: ({ piece }) => piece,
    show: ({ piece, batch, position, serial }) => (
      <Box>
        <Link to={`/flow/time/${batch}/${position}`} className="condensed codelink">
          {piece}
        </Link>
        <Quiet block small>
          {serial}
        </Quiet>
      </Box>
    ),
    least: 96,
  },
  { key: 'model', head: 'model', of: ({ model }) => model, choice: true },
  moment({ key: 'left', head: 'left', ms: ({ leftMs }) => leftMs, zone }),
  {
    key: 'late',
    head: 'after it was due',
    of: ({ lateDays }) => lateDays,
    show: ({ lateDays }) => (lateDays === null ? '' : lateWords(lateDays)),
  },
  { key: 'days', head: 'days', of: ({ days }) => days, digits: 1 },
  ...LEAD_PARTS.map((part): Column<Line> => ({
    ...{ key: part, head: LEAD_PART_WORDS[part], digits: 1, of: ({ parts }) => parts[part] },
    ...(part === 'closed' || part === 'sendBack' ? { hidden: true } : {}),
  })),
];
