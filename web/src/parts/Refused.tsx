import { Typography } from '@mui/material';
/** Why something was not accepted, beside where it was asked. */
export function Refused({ words }: { words: string | null }) {
  return words === null ? null : (
    <Typography role="alert" style={{ color: 'var(--oxblood)', marginTop: 6 }}>
      {words}
    </Typography>
  );
}
