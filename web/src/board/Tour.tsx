import { Button, Paper, Popper, Typography } from '@mui/material';
import { useEffect, useLayoutEffect, useState } from 'react';
import { Row } from '../parts/index.ts';

/** Parts of the board, in the order in which they are shown: where each is, and what it says. */
const STOPS: readonly { at: string; name: string; says: string }[] = [
  {
    at: '.rope',
    name: 'The rope',
    says: 'The whole works, left to right. It is thick where many pieces are, hatched where they are on hold, marked where work piles up. Point at it for the numbers.',
  },
  {
    at: '.boardrow:not(.boardhead)',
    name: 'One row, one station',
    says: 'Left of the black line what waits, the next one nearest to it. On the line what is in hand. A rack shows its pieces as pegs: gone on, scrapped, sent back, to do.',
  },
  {
    at: '.boardhead',
    name: 'Right of the line: on hold',
    says: 'Drying, curing, settling. A bar ends when the rack comes free, reckoned from what was measured; the whiskers say how sure that is. Green may leave now.',
  },
  {
    at: '.calls',
    name: 'Calls',
    says: 'What wants you, most costly first: each with its sum, its numbers, and the button that does it. What can wait is put off with a reason.',
  },
  {
    at: '.logbar form',
    name: 'The log',
    says: 'Everything that happens is one line: L to type, “B-217 body mill 6 done 1 scrap tear-out”. What it would change is said before you press Enter; what was wrong is taken back, never rubbed out.',
  },
];

const found = (at: string): Element | null => document.querySelector(at);

/** A walk around the board, one part after the other; Escape leaves it. Parts that are not there are left out. */
export default function Tour({ onEnd }: { onEnd: () => void }) {
  const [stop, setStop] = useState(0);
  const [stops, setStops] = useState<typeof STOPS>([]);
  // What can be pointed at is known when it is drawn.
  useLayoutEffect(() => setStops(STOPS.filter(({ at }) => found(at) !== null)), []);
  const here = stops[stop];
  const anchor = here && found(here.at);
  useEffect(() => {
    anchor?.scrollIntoView({ block: 'nearest' });
  }, [anchor]);
  if (!here || !anchor) return null;
  const last = stop === stops.length - 1;
  return (
    <Popper open role="presentation" anchorEl={anchor} placement="bottom" sx={{ zIndex: 'modal' }}>
      <Paper
        role="dialog"
        aria-labelledby="tour-name"
        aria-describedby="tour-says"
        variant="outlined"
        onKeyDown={(event) => {
          if (event.key !== 'Escape') return;
          event.stopPropagation();
          onEnd();
        }}
        sx={{
          width: 'min(360px, 92vw)',
          p: '12px 14px',
          m: '8px',
          borderColor: 'text.primary',
          borderWidth: 2,
        }}
      >
        <Typography variant="h3" id="tour-name">
          {here.name}
        </Typography>
        <Typography id="tour-says" sx={{ my: '6px' }}>
          {here.says}
        </Typography>
        <Row>
          <Button
            key={stop}
            autoFocus
            variant="contained"
            onClick={() => (last ? onEnd() : setStop(stop + 1))}
          >
            {last ? 'To work' : `Next: ${(stops[stop + 1]?.name ?? '').toLowerCase()}`}
          </Button>
          {!last && <Button onClick={onEnd}>Enough</Button>}
        </Row>
      </Paper>
    </Popper>
  );
}
