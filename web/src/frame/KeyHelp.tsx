import {
  Button,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  Table,
  TableBody,
  TableCell,
  TableRow,
  TextField,
  Typography,
} from '@mui/material';
import { useState } from 'react';
import { Link } from 'react-router';
import { KEYS, LINES } from './keys.ts';

interface Told {
  what: string;
  does: string;
}
const KEYS_TOLD: readonly Told[] = KEYS.map(({ keys, does }) => ({ what: keys, does }));
const LINES_TOLD: readonly Told[] = LINES.map(({ line, does }) => ({ what: line, does }));

/** What can be pressed and what can be typed, to be looked through by any of their words. */
export default function KeyHelp({ onClose }: { onClose: () => void }) {
  const [wanted, setWanted] = useState('');
  const words = wanted.trim().toLowerCase().split(/\s+/);
  const found = (all: readonly Told[]): readonly Told[] =>
    all.filter(({ what, does }) => {
      const text = `${what} ${does}`.toLowerCase();
      return words.every((word) => text.includes(word));
    });
  const [keys, lines] = [found(KEYS_TOLD), found(LINES_TOLD)];
  return (
    <Dialog open onClose={onClose} aria-labelledby="key-help">
      <DialogTitle id="key-help">Keys, when you are not typing</DialogTitle>
      <DialogContent>
        <TextField
          label="Look for: scrap, cure, undo …"
          value={wanted}
          onChange={(event) => setWanted(event.target.value)}
          fullWidth
          autoFocus
          sx={{ mt: 1, mb: 1 }}
        />
        <Rows told={keys} />
        {lines.length > 0 && (
          <Typography variant="h3" sx={{ mt: 1.5 }}>
            Lines for the log, in any order of words
          </Typography>
        )}
        <Rows told={lines} code />
        {keys.length + lines.length === 0 && (
          <Typography role="status" color="textSecondary">
            Nothing is called that. All lines of the log stand in docs/log.md.
          </Typography>
        )}
      </DialogContent>
      <DialogActions sx={{ flexWrap: 'wrap' }}>
        <Button component={Link} to="/" state={{ tour: true }} onClick={onClose}>
          Around the board
        </Button>
        <Button component={Link} to="/devices" onClick={onClose}>
          What is drawn
        </Button>
        <Button component={Link} to="/kept" onClick={onClose}>
          Kept in this browser
        </Button>
        <Button component={Link} to="/backups" onClick={onClose}>
          Backups
        </Button>
        <Button component={Link} to="/changes" onClick={onClose}>
          Changed settings
        </Button>
        <Button onClick={onClose}>Close</Button>
      </DialogActions>
    </Dialog>
  );
}

function Rows({ told, code = false }: { told: readonly Told[]; code?: boolean }) {
  return (
    <Table>
      <TableBody>
        {told.map(({ what, does }) => (
          <TableRow key={what}>
            <TableCell component="th" scope="row">
              {code ? <code>{what}</code> : <strong>{what}</strong>}
            </TableCell>
            <TableCell>{does}</TableCell>
          </TableRow>
        ))}
      </TableBody>
    </Table>
  );
}
