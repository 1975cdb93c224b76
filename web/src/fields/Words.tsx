import { TextField } from '@mui/material';

/** Longest reason, cause or note that is kept with an entry. */
const LONGEST_REASON = 200;

/** A line of words, cut where the server would refuse it. */
export function Words({
  label,
  value,
  onChange,
  most = LONGEST_REASON,
  width,
  lines = false,
}: {
  label: string;
  value: string;
  onChange: (value: string) => void;
  most?: number;
  /** px; left out, it takes the room there is. */
  width?: number;
  /** It may have several lines. */
  lines?: boolean;
}) {
  return (
    <TextField
      label={label}
      value={value}
      onChange={(event) => onChange(event.target.value.slice(0, most))}
      fullWidth={width === undefined}
      multiline={lines}
      sx={{ width }}
    />
  );
}
