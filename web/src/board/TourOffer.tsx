import { Button, Paper, Typography } from '@mui/material';
import { useState } from 'react';
import { Link } from 'react-router';
import { Row } from '../parts/index.ts';

const KEPT = 'ample-crane.shown-around';

/** To whoever has not been shown around in this browser: an offer, once. */
export function TourOffer() {
  const [offered, setOffered] = useState(() => localStorage.getItem(KEPT) === null);
  const settle = (): void => {
    localStorage.setItem(KEPT, 'yes');
    setOffered(false);
  };
  if (!offered) return null;
  return (
    <Paper variant="outlined" sx={{ p: '10px 12px', mb: '10px' }}>
      <Typography>New here? Five stops around the board take a minute; later they are under Keys.</Typography>
      <Row style={{ marginTop: 6 }}>
        <Button
          component={Link}
          to="/"
          state={{ tour: true }}
          variant="contained"
          size="small"
          onClick={settle}
        >
          Show me
        </Button>
        <Button size="small" onClick={settle}>
          I know my way
        </Button>
      </Row>
    </Paper>
  );
}
