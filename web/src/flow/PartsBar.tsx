import { LEAD_PART_WORDS, LEAD_PARTS, type LeadPart } from '@ample-crane/core';
import { Box } from '@mui/material';

import './PartsBar.css';

/** One time taken apart: a bar as long as it is, its parts one after the other. */
export function PartsBar({
  parts,
  most,
  name,
}: {
  parts: Record<LeadPart, number>;
  most: number;
  name: string;
}) {
  const words = LEAD_PARTS.filter((part) => parts[part] >= 0.05)
    .map((part) => `${LEAD_PART_WORDS[part]} ${parts[part].toFixed(1)} days`)
    .join(', ');
  return (
    <Box className="partsbar" role="img" aria-label={`${name}: ${words || 'no time'}`} title={words}>
      {LEAD_PARTS.map((part) => (
        <Box key={part} className={`part ${part}`} style={{ width: `${(100 * parts[part]) / most}%` }} />
      ))}
    </Box>
  );
}

/** What each pattern of the bars means. */
export function PartsKey() {
  return (
    <Box className="partskey">
      {LEAD_PARTS.map((part) => (
        <Box key={part} component="span">
          <Box component="i" className={`part ${part}`} /> {LEAD_PART_WORDS[part]}
        </Box>
      ))}
    </Box>
  );
}
