import { count } from '@ample-crane/core';
import { Typography } from '@mui/material';
import { Link } from 'react-router';
import { Panel } from '../parts/index.ts';
import { useBlanks } from '../wood/queries.ts';

interface Part {
  kind: string;
  name: string;
  pieces: number;
  /** Null: nobody has said what it is made of. */
  species: string | null;
}

/** Blanks there are for what is to be opened, before it is; which of them is proposed as soon as its rack is there. */
export function WoodInStock({ parts }: { parts: readonly Part[] }) {
  const known = parts.filter(({ species }) => species !== null);
  const { data: blanks } = useBlanks();
  if (known.length === 0 || !blanks) return null;
  return (
    <Panel label="Wood in stock">
      <Typography variant="h2">Wood in stock</Typography>
      {known.map(({ kind, name, pieces, species }) => {
        const there = blanks.filter((blank) => blank.kind === kind && blank.species === species).length;
        return (
          <Typography key={kind} className={there < pieces ? 'attention' : undefined}>
            {name}: {count(there, 'blank')} of {species} for {count(pieces, 'piece')}
            {there < pieces && ', too few'}
          </Typography>
        );
      })}
      <Typography color="textSecondary">
        <Link to="/wood/stock">The stock</Link>. As soon as a rack is opened its blanks are proposed here, by
        weight window, figure and moisture.
      </Typography>
    </Panel>
  );
}
