import { Stack } from '@mui/material';
import { useFloor, useSetup } from '../api/queries.ts';
import { LastChange } from '../changes/LastChange.tsx';
import { Columns, Opening, Page, Panel } from '../parts/index.ts';
import { FlowNav } from '../shared/FlowNav.tsx';
import { isoDate } from '../shared/time.ts';
import { useInAddress } from '../shared/useInAddress.ts';
import { DayPanel } from './DayPanel.tsx';
import { HoursVerdict } from './HoursVerdict.tsx';
import { ShiftsPanel } from './ShiftsPanel.tsx';
import { WeeksTable } from './WeeksTable.tsx';

const DAY = /^20\d\d-\d\d-\d\d$/;

/** When the house works: its shifts, closed days and overtime, and the evenings of single stations. */
export default function HoursPage() {
  const { data: setup, error } = useSetup();
  const { data: floor } = useFloor();
  const { asked, ask } = useInAddress();
  if (!setup || !floor)
    return (
      <Page title="Flow" tabs={<FlowNav />}>
        <Opening error={error} words="Reading the calendar…" />
      </Page>
    );
  const { calendar } = setup;
  const today = isoDate(floor.nowMs, floor.zone);
  const day = DAY.test(asked('day')) ? asked('day') : today;
  return (
    <Page title="Flow" tabs={<FlowNav />}>
      <Columns>
        <Stack>
          <HoursVerdict calendar={calendar} today={today} />
          <Panel label="Weeks">
            <WeeksTable
              calendar={calendar}
              today={today}
              chosen={day}
              onChoose={(one) => ask('day', one)}
              stations={floor.stations}
            />
          </Panel>
          <LastChange setting="calendar" name="closed days" />
          <LastChange setting="calendar" name="overtime" />
        </Stack>
        <Stack>
          <DayPanel key={day} day={day} calendar={calendar} stations={floor.stations} />
          <ShiftsPanel calendar={calendar} today={today} />
        </Stack>
      </Columns>
    </Page>
  );
}
