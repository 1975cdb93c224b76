import type { FactoryCalendar } from '@ample-crane/core';
import { Box, ButtonBase, Table, TableBody, TableCell, TableHead, TableRow, Typography } from '@mui/material';
import { Quiet, Sideways } from '../parts/index.ts';
import { dayWords, sayDay } from '../shared/time.ts';
import { DayTape } from './DayTape.tsx';
import { mondayOf, weeksOfWork, WEEKDAY_OPTIONS, whoWorks, type DayOfWork } from './weeks.ts';

/** A week that was, so that what was said late is seen; and those ahead. */
const WEEKS_BACK = 1;
const WEEKS = 10;

/** Week by week, each day a tape of 24 hours with what is worked on it. */
export function WeeksTable({
  calendar,
  today,
  chosen,
  onChoose,
  stations,
}: {
  calendar: FactoryCalendar;
  today: string;
  chosen: string;
  onChoose: (day: string) => void;
  stations: readonly { code: string; name: string }[];
}) {
  const monday = mondayOf(mondayOf(chosen) < mondayOf(today) ? chosen : today);
  const first = new Date(Date.parse(`${monday}T00:00:00Z`) - WEEKS_BACK * 7 * 86_400_000);
  const weeks = weeksOfWork(calendar, first.toISOString().slice(0, 10), WEEKS);
  const nameOf = (code: string): string => stations.find((one) => one.code === code)?.name ?? code;
  return (
    <Sideways>
      <Table size="small" aria-label="Weeks of work" sx={{ minWidth: 720, tableLayout: 'fixed' }}>
        <TableHead>
          <TableRow>
            <TableCell scope="col" sx={{ width: 76 }}>
              week
            </TableCell>
            {WEEKDAY_OPTIONS.map(({ words }) => (
              <TableCell key={words} scope="col">
                {words}
              </TableCell>
            ))}
            <TableCell scope="col" align="right" sx={{ width: 64 }}>
              hours
            </TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          {weeks.map(({ monday: start, number, hours, days }) => (
            <TableRow key={start}>
              <TableCell component="th" scope="row">
                <strong>{number}</strong>
                <Quiet block small>
                  {sayDay(start)}
                </Quiet>
              </TableCell>
              {days.map((one) => (
                <TableCell key={one.day} sx={{ padding: '4px' }}>
                  <ButtonBase
                    focusRipple
                    onClick={() => onChoose(one.day)}
                    aria-label={`${dayWords(one.day)}: ${saidOf(one, nameOf)}`}
                    aria-pressed={one.day === chosen}
                    sx={{
                      ...{ display: 'block', width: '100%', textAlign: 'left', padding: '4px' },
                      ...{ minHeight: 44, borderRadius: '3px' },
                      outline: one.day === chosen ? '2px solid var(--ebony)' : undefined,
                      boxShadow: one.day === today ? 'inset 4px 0 0 var(--shellac)' : undefined,
                      '&.Mui-focusVisible': { outline: '3px solid var(--slate)' },
                    }}
                  >
                    <Typography component="span" sx={{ display: 'block', fontSize: 13, lineHeight: 1.3 }}>
                      {Number(one.day.slice(8))}{' '}
                      <Quiet small>
                        {one.isClosed && one.hours === 0 ? 'closed' : one.hours > 0 && one.hours.toFixed(1)}
                      </Quiet>
                    </Typography>
                    <DayTape tape={one.tape} isClosed={one.isClosed} />
                  </ButtonBase>
                </TableCell>
              ))}
              <TableCell align="right">
                <strong>{hours.toFixed(1)}</strong>
              </TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
      <Box sx={{ display: 'flex', gap: '18px', flexWrap: 'wrap', mt: 1 }}>
        {LEGEND.map(({ kind, words }) => (
          <Box key={kind} sx={{ display: 'flex', alignItems: 'center', gap: '6px' }}>
            <Box sx={{ width: 56 }}>
              <DayTape tape={[{ from: 0.25, to: 0.75, kind }]} isClosed={false} />
            </Box>
            <Quiet small>{words}</Quiet>
          </Box>
        ))}
        <Quiet small>Each tape is a day from midnight to midnight.</Quiet>
      </Box>
    </Sideways>
  );
}

const LEGEND = [
  { kind: 'shift', words: 'a shift' },
  { kind: 'house', words: 'overtime of the house' },
  { kind: 'stations', words: 'overtime of single stations' },
] as const;

function saidOf({ isClosed, hours, extras }: DayOfWork, nameOf: (station: string) => string): string {
  const own = extras.map((extra) => `overtime ${extra.start} to ${extra.end} for ${whoWorks(extra, nameOf)}`);
  const worked = hours > 0 ? `${hours.toFixed(1)} h` : 'nothing is worked';
  return [isClosed ? 'closed' : null, worked, ...own].filter((part) => part !== null).join(', ');
}
