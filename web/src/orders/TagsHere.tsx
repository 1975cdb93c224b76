import type { Stage } from '@ample-crane/core';
import { Box, Typography } from '@mui/material';
import { useTags } from './queries.ts';
import { tagWords } from './words.ts';

/** What the tags of a rack say at the station it stands at: in one line, where it is worked from a page of many racks. */
export function TagsHere({ stage, batch, operation }: { stage: Stage; batch: string; operation?: string }) {
  const { data: racks = [] } = useTags(stage);
  const options = racks
    .filter((rack) => rack.batch === batch && (operation === undefined || rack.operation === operation))
    .flatMap((rack) => rack.options);
  if (options.length === 0) return null;
  return (
    <Box component="section" aria-label={`On the tags of ${batch}`} sx={{ margin: '3px 0' }}>
      {options.map((option) => (
        <Typography key={option.option}>
          {option.name}: <strong>{tagWords(option)}</strong>
        </Typography>
      ))}
    </Box>
  );
}
