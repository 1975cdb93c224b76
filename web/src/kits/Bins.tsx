import { Button } from '@mui/material';
import { Link } from 'react-router';
import { Row } from '../parts/index.ts';
import './Bins.css';
import type { BinAhead } from './queries.ts';
import { BIN_WORDS } from './words.ts';

const TONE: Record<BinAhead['standing'], string> = {
  none: 'empty',
  short: 'half',
  whole: 'full',
  otherwise: 'wrong',
};

/** The bins of a rack as they stand on their shelf, each as full as it is; each leads to its picking. */
export function Bins({ batch, bins }: { batch: string; bins: readonly BinAhead[] }) {
  return (
    <Row role="group" aria-label={`Bins of ${batch}`} style={{ gap: 6 }}>
      {bins.map(({ piece, position, bin, standing }) => (
        <Button
          key={piece}
          component={Link}
          to={`/kits/${batch}/${position}`}
          className={`kitbin ${TONE[standing]}`}
          aria-label={`${piece}: ${BIN_WORDS[standing]}${bin === null ? '' : `, bin ${bin}`}`}
        >
          <span>{String(position).padStart(2, '0')}</span>
          <small>{bin ?? (standing === 'whole' ? '✓' : '–')}</small>
        </Button>
      ))}
    </Row>
  );
}
