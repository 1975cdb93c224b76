import { Accordion, AccordionDetails, AccordionSummary } from '@mui/material';
import ExpandMore from '@mui/icons-material/ExpandMore';
import type { CSSProperties, ReactNode } from 'react';

/** What is read by few, folded away behind its name. */
export function Fold(props: { name: string; style?: CSSProperties; children: ReactNode }) {
  return (
    <Accordion
      disableGutters
      elevation={0}
      square
      style={props.style}
      slotProps={{ heading: { component: 'div' } }}
    >
      <AccordionSummary expandIcon={<ExpandMore fontSize="small" />}>{props.name}</AccordionSummary>
      <AccordionDetails>{props.children}</AccordionDetails>
    </Accordion>
  );
}
