import type { FactoryCalendar } from '@ample-crane/core';
import { Typography } from '@mui/material';
import { Link } from 'react-router';
import { useConstraint } from '../api/queries.ts';
import { Verdict } from '../devices/Verdict.tsx';

import { worthWords } from '../flow/words.ts';
import { hoursSentence } from './words.ts';
import { mondayOf, weeksOfWork } from './weeks.ts';

/** Working days by which it is told what an hour more would be worth. */
const LOOKED_AT = 20;

/** What is worked this week and next, and where an hour more would bring something. */
export function HoursVerdict({ calendar, today }: { calendar: FactoryCalendar; today: string }) {
  const { data: pace } = useConstraint(LOOKED_AT);
  return (
    <Verdict {...hoursSentence(weeksOfWork(calendar, mondayOf(today), 2))}>
      {pace && (
        <Typography color="textSecondary">
          {worthWords(pace)} {pace.hourWorth && 'Overtime elsewhere only makes what waits there longer. '}
          <Link to="/flow/constraint">Why</Link>
        </Typography>
      )}
    </Verdict>
  );
}
