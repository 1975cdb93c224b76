import { cautionWords, spanWords, sprayFirstWords } from '@ample-crane/core';
import { Box, Button, Stack, Typography } from '@mui/material';
import { Link, useParams } from 'react-router';
import { answered, server } from '../api/client.ts';
import { sayTime, useFactoryNow } from '../shared/time.ts';
import { usePerform } from '../shared/usePerform.ts';
import { Caution } from '../devices/Caution.tsx';
import { PegRack } from '../devices/PegRack.tsx';
import { Verdict, type VerdictTone } from '../devices/Verdict.tsx';
import { TagsHere } from '../orders/TagsHere.tsx';
import { Columns, Opening, Page, Panel, Quiet, Reckoning, Refused, Row } from '../parts/index.ts';
import { BoothChart } from './BoothChart.tsx';
import { FinishNav } from './FinishNav.tsx';
import { useBooths, type Booth } from './queries.ts';

/** Booths through the day: may one spray, until when, and which rack first. */
export default function BoothsPage() {
  const { code } = useParams();
  const { data, dataUpdatedAt, error } = useBooths();
  const nowMs = useFactoryNow(data, dataUpdatedAt);
  if (!data) return <Opening error={error} />;
  const booths = data.booths
    .filter((booth) => code === undefined || booth.code === code)
    .toSorted(
      (a, b) =>
        (troubleMs(a) === troubleMs(b) ? 0 : troubleMs(a) - troubleMs(b)) || a.name.localeCompare(b.name),
    );
  return (
    <Page
      title="Booths"
      tabs={
        <>
          <FinishNav />
          {code !== undefined && <Link to="/finish/booths">All booths</Link>}
        </>
      }
    >
      <Stack style={{ padding: '0 16px 20px' }}>
        <Caution words={cautionWords('spraying')} />
        {booths.length === 0 && (
          <Typography>
            {code === undefined ? 'No booth is set up.' : `There is no booth '${code}'.`}
          </Typography>
        )}
        {booths.map((booth) => (
          <BoothPanel
            key={booth.code}
            booth={booth}
            nowMs={nowMs}
            zone={data.zone}
            tall={code !== undefined}
          />
        ))}
      </Stack>
    </Page>
  );
}

/** When its air will be against spraying: what is in trouble first comes first. */
const troubleMs = ({ now, closesMs }: Booth): number =>
  now?.judged.verdict === 'spray' ? (closesMs ?? Infinity) : 0;

const TONES: Record<string, VerdictTone> = { spray: 'good', hold: 'wait', blush: 'bad' };

function BoothPanel({
  booth,
  nowMs,
  zone,
  tall,
}: {
  booth: Booth;
  nowMs: number;
  zone: string;
  tall: boolean;
}) {
  const verdict = booth.now?.judged.verdict;
  return (
    <Panel label={booth.name}>
      <Typography variant="h2">
        <Link to={`/finish/booths/${booth.code}`}>{booth.name}</Link>{' '}
        {booth.now && (
          <Quiet small>
            {booth.now.temperatureC.toFixed(1)} °C, {booth.now.relativeHumidityPct.toFixed(0)} % RH,{' '}
            {booth.now.judged.surfaceMeasured
              ? `work ${booth.now.surfaceC?.toFixed(1) ?? ''} °C`
              : 'surface not measured'}
            , dew point {booth.now.judged.dewC.toFixed(1)} °C
          </Quiet>
        )}
      </Typography>
      <Verdict
        tone={verdict ? (TONES[verdict] ?? 'wait') : 'wait'}
        sentence={boothSentence(booth, nowMs, zone)}
      >
        {booth.now && (
          <Reckoning
            put={[
              [
                'air',
                `${booth.now.temperatureC.toFixed(1)} °C, ${booth.now.relativeHumidityPct.toFixed(0)} % RH`,
              ],
              [
                'surface of the work',
                `${(booth.now.surfaceC ?? booth.now.temperatureC).toFixed(1)} °C${booth.now.judged.surfaceMeasured ? '' : ', taken as the air: not measured'}`,
              ],
              ['dew point', `${booth.now.judged.dewC.toFixed(1)} °C`],
              ['humidity at most', `${booth.limits.rhPct} %`],
              ['air wanted', `${booth.limits.lowC}–${booth.limits.highC} °C`],
            ]}
            formula="Water settles on what is colder than the dew point, and a film that cools as its solvent leaves is: it blushes. The work must be warmer than the dew point by the margin, the air within its limits. What comes is the mean of the last two weeks at each hour of the day, moved by what is different now, which dies away in half a day."
            source="Dew point by the Magnus formula with the constants of WMO-No. 8; the limits are the booth’s. The data sheet of the material decides where it says more."
          />
        )}
      </Verdict>
      <Columns style={{ padding: '8px 0 0' }}>
        <BoothChart booth={booth} zone={zone} nowMs={nowMs} height={tall ? 320 : 190} />
        <Box>
          <Typography variant="h3">In front of it</Typography>
          {booth.racks.length === 0 && (
            <Typography color="textSecondary">No rack waits to be sprayed here.</Typography>
          )}
          {booth.racks.slice(0, tall ? 20 : 4).map((rack) => (
            <Row key={`${rack.batch}/${rack.place}`} style={{ marginTop: 5 }}>
              <PegRack
                code={rack.batch}
                pegs={Array.from({ length: rack.pieces }, () => 'todo' as const)}
                inverted={rack.standing === 'inHand'}
                words={`${rack.model}, ${rack.standing === 'inHand' ? 'in hand' : 'waiting'}`}
                href={`/finish/rack/${rack.batch}`}
              />
              <Box>
                coat {rack.number} of {rack.of}: {spanWords(rack.minutes / 60)} of spraying
                {rack.fromMs !== null && rack.fromMs > nowMs && `, from ${sayTime(rack.fromMs, zone, nowMs)}`}
                <Quiet block>
                  {rack.operation}
                  {rack.of > rack.number && `, ${spanWords(rack.allMinutes / 60)} for all coats`}, due{' '}
                  {sayTime(rack.dueMs, zone, nowMs)}
                </Quiet>
                <TagsHere stage="finishing" batch={rack.batch} />
              </Box>
            </Row>
          ))}
          <Filters booth={booth} nowMs={nowMs} zone={zone} />
        </Box>
      </Columns>
    </Panel>
  );
}

/** Spray, hold or blush risk, until when, and what to spray first. */
export function boothSentence(booth: Booth, nowMs: number, zone: string): string {
  const { now, limits, closesMs, opensMs, first } = booth;
  if (!now) return 'Its air is not logged: measure it by hand before you spray.';
  const { judged } = now;
  const margin = `${judged.marginC.toFixed(1)} °C above the dew point, ${limits.marginC} °C above it wanted`;
  if (judged.verdict !== 'spray') {
    const opens = opensMs === null ? '' : ` Forecast to open ${sayTime(opensMs, zone, nowMs)}.`;
    return `${judged.verdict === 'blush' ? 'Do not spray: it would blush' : 'Hold'}: ${judged.against.join('; ')}.${opens}`;
  }
  if (closesMs === null)
    return `Spray: the work is ${margin}; nothing stands against it for the hours forecast.`;
  return `Spray until ${sayTime(closesMs, zone, nowMs)}: the work is ${margin}; then ${booth.ahead.find(({ atMs }) => atMs === closesMs)?.against.join('; ') ?? 'it would blush'}.${first ? ` ${sprayFirstWords(first, nowMs, (ms) => sayTime(ms, zone, nowMs))}` : ''}`;
}

function Filters({ booth, nowMs, zone }: { booth: Booth; nowMs: number; zone: string }) {
  const { perform, busy, refused } = usePerform();
  const over = booth.filterHours >= booth.filterLifeHours;
  return (
    <Box style={{ marginTop: 10 }}>
      <Typography variant="h3">Filters</Typography>
      <Typography className={over ? 'attention' : undefined}>
        {booth.filterHours.toFixed(0)} of {booth.filterLifeHours.toFixed(0)} hours of spraying
        {booth.filterChangedMs !== null && `, changed ${sayTime(booth.filterChangedMs, zone, nowMs)}`}.
      </Typography>
      <Button
        variant={over ? 'contained' : 'outlined'}
        disabled={busy}
        onClick={() =>
          void perform(
            (by, key) =>
              answered(
                server.POST('/api/finish/booths/{code}/filters', {
                  params: { path: { code: booth.code } },
                  body: { key, by },
                }),
              ),
            () => `Filters of ${booth.name} changed: their hours begin again.`,
          )
        }
      >
        Filters changed
      </Button>
      <Refused words={refused} />
    </Box>
  );
}
