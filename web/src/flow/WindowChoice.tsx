import { ToggleButton, ToggleButtonGroup } from '@mui/material';
import { useInAddress } from '../shared/useInAddress.ts';

const WINDOWS = ['10', '20', '40', '60'];
const USUAL = '20';

/** Working days the log is looked at for: kept in the address, so that a page can be passed on as it is seen. */
export function useWindow(): number {
  const { asked } = useInAddress();
  return Number(WINDOWS.includes(asked('days')) ? asked('days') : USUAL);
}

/** The window of a page of the flow. */
export function WindowChoice() {
  const { ask } = useInAddress();
  const days = useWindow();
  return (
    <ToggleButtonGroup
      exclusive
      aria-label="Working days looked at"
      value={`${days}`}
      onChange={(_, chosen: string | null) => ask('days', chosen ?? USUAL)}
    >
      {WINDOWS.map((value) => (
        <ToggleButton key={value} value={value}>
          {value} days
        </ToggleButton>
      ))}
    </ToggleButtonGroup>
  );
}
