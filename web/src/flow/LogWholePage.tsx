import { FORGOTTEN_DAYS } from '@ample-crane/core';
import { Box, Stack, Typography } from '@mui/material';
import { Link } from 'react-router';
import { Verdict } from '../devices/Verdict.tsx';
import { Columns, EmptyState, Panel, Quiet } from '../parts/index.ts';
import { STAGE_NAMES } from '../shared/stages.ts';
import { sayDay } from '../shared/time.ts';
import { FlowOf } from './FlowOf.tsx';
import { useLogWhole, type LogWhole } from './queries.ts';
import { littleWords, wholeSentence } from './words.ts';
import { useWindow, WindowChoice } from './WindowChoice.tsx';

/** Whether the log can be believed: what does not fit together, where, and what to do about it. */
export default function LogWholePage() {
  return <FlowOf asked={useLogWhole(useWindow())}>{(data) => <Whole data={data} />}</FlowOf>;
}

function Whole({ data }: { data: LogWhole }) {
  const { little, missingStarts, tooFast, forgotten, habits, fromDay, toDay } = data;
  return (
    <Columns>
      <Stack>
        <Verdict {...wholeSentence(data)}>
          <Typography color="textSecondary">
            {sayDay(fromDay)} to {sayDay(toDay)}.
          </Typography>
        </Verdict>
        <Panel label="Racks that have not moved" stack>
          <WindowChoice />
          <Typography variant="h2">Racks that have not moved</Typography>
          {forgotten.length === 0 && (
            <EmptyState>
              Everything that waits or is in hand moved within {FORGOTTEN_DAYS} working days.
            </EmptyState>
          )}
          {forgotten.map(({ batch, operationName, status, pieces, days }) => (
            <Typography key={`${batch}${operationName}${status}`}>
              <Link to={`/batch/${batch}`} className="codelink condensed">
                {batch}
              </Link>{' '}
              has {status === 'inHand' ? 'been in hand' : 'waited'} at {operationName} for {days.toFixed(0)}{' '}
              working days
              <Quiet>, {pieces === 1 ? '1 piece' : `${pieces} pieces`}: open it, and file where it is</Quiet>
            </Typography>
          ))}
        </Panel>
        <Odd
          title="Starts that are missing"
          rows={missingStarts}
          none="Everything that was done was taken in hand first."
          words="through without having been in hand: file the start when work begins, or its touch time is lost"
        />
        <Odd
          title="Faster than anybody works"
          rows={tooFast}
          none="No start was filed together with its end."
          words="took less than a twentieth of the route’s time: start and end were filed together afterwards"
        />
      </Stack>
      <Stack>
        <Panel label="Little’s law" stack>
          <Typography variant="h2">Little’s law</Typography>
          <Quiet block>
            Pieces there on average, beside pieces a day that left times the days they had been there.
          </Quiet>
          {little.map((stage) => (
            <Box key={stage.stage}>
              <Typography sx={{ fontWeight: 600 }}>{STAGE_NAMES[stage.stage]}</Typography>
              <Typography className={stage.fits ? undefined : 'attention'}>{littleWords(stage)}</Typography>
            </Box>
          ))}
        </Panel>
        <Panel label="Filed all at once" stack>
          <Typography variant="h2">Filed all at once</Typography>
          {habits.length === 0 && (
            <EmptyState>Nobody files most of the day’s work in one quarter of an hour.</EmptyState>
          )}
          {habits.map(({ person, name, at, count, of }) => (
            <Typography key={person}>
              <strong>{name}</strong>: {count} of {of} filings in the quarter of an hour from {at}
              <Quiet>
                . Where that is not when it is done, its times are not either: give them the line at the bench
              </Quiet>
            </Typography>
          ))}
        </Panel>
      </Stack>
    </Columns>
  );
}

function Odd(props: { title: string; rows: LogWhole['tooFast']; none: string; words: string }) {
  const { title, rows, none, words } = props;
  return (
    <Panel label={title} stack>
      <Typography variant="h2">{title}</Typography>
      {rows.length === 0 && <EmptyState>{none}</EmptyState>}
      {rows.map(({ station, operation, operationName, count, of, batches }) => (
        <Typography key={`${station}${operation}`}>
          <strong>{operationName}</strong>: {count} of {of} {words}
          <Quiet block>
            {batches.map((batch) => (
              <Link key={batch} to={`/batch/${batch}`} style={{ marginRight: 8 }}>
                {batch}
              </Link>
            ))}
          </Quiet>
        </Typography>
      ))}
    </Panel>
  );
}
