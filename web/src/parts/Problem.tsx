import { Box, Button, Typography } from '@mui/material';
import { useQueryClient } from '@tanstack/react-query';
import type { ReactNode } from 'react';
import { ServerProblem } from '../api/client.ts';
import { Panel } from './Panel.tsx';
import { Row } from './Row.tsx';

/** What happened, what was kept, and what to do: try again, or go where `instead` leads. */
export function Problem({ error, instead }: { error: Error; instead?: ReactNode }) {
  const queries = useQueryClient();
  const away = error instanceof ServerProblem && error.unknown;
  return (
    <Box role="alert" sx={{ m: '14px 16px' }}>
      <Panel stack>
        <Typography sx={{ fontWeight: 700, color: 'error.main' }}>{sentence(error.message)}</Typography>
        {away && (
          <Typography>What was filed on this screen is kept, and goes when the server answers.</Typography>
        )}
        <Row>
          <Button
            onClick={() => void queries.refetchQueries({ predicate: ({ state }) => state.error !== null })}
          >
            Try again
          </Button>
          <Typography component="span">{instead ?? 'Press 0 for the board.'}</Typography>
        </Row>
      </Panel>
    </Box>
  );
}

function sentence(words: string): string {
  const capital = words.charAt(0).toUpperCase() + words.slice(1);
  return /[.!?…]$/.test(capital) ? capital : `${capital}.`;
}
