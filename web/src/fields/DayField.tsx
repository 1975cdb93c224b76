import { AdapterLuxon } from '@mui/x-date-pickers/AdapterLuxon';
import { DatePicker } from '@mui/x-date-pickers/DatePicker';
import { LocalizationProvider } from '@mui/x-date-pickers/LocalizationProvider';
import { DateTime } from 'luxon';

/**
 * A day of the factory's calendar, typed or picked: '2026-11-24', '' while there is none or what is typed is none yet. `problem`
 * stands below the field.
 */
export function DayField(props: {
  label: string;
  value: string;
  onChange: (day: string) => void;
  /** The factory's time zone: what day is today is decided there. */
  zone: string;
  problem?: string | undefined;
  width?: number;
}) {
  const { label, value, onChange, zone, problem, width } = props;
  return (
    <LocalizationProvider dateAdapter={AdapterLuxon} adapterLocale="en-GB">
      <DatePicker
        label={label}
        value={value === '' ? null : DateTime.fromISO(value, { zone })}
        onChange={(day) => onChange((day?.isValid && day.toISODate()) || '')}
        timezone={zone}
        format="d LLL yyyy"
        slotProps={{
          textField: { size: 'small', error: problem !== undefined, helperText: problem, sx: { width } },
        }}
      />
    </LocalizationProvider>
  );
}
