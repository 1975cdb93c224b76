import { Typography } from '@mui/material';
import { useState } from 'react';
import './Caution.css';

/** The caution that belongs to what is done here: short, and put away for today when it was read. */
export function Caution({ words }: { words: string | null }) {
  const [read, setRead] = useState(false);
  if (words === null || read) return null;
  return (
    <Typography className="caution">
      {words}{' '}
      <button type="button" className="linklike" onClick={() => setRead(true)}>
        Read
      </button>
    </Typography>
  );
}
