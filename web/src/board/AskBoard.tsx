import { count, STAGES } from '@ample-crane/core';
import FilterListIcon from '@mui/icons-material/FilterList';
import {
  Box,
  Button,
  IconButton,
  Popover,
  Stack,
  ToggleButton,
  ToggleButtonGroup,
  Typography,
} from '@mui/material';
import { usePeople, type Board } from '../api/queries.ts';
import { RACK_FILTERS, RackFilters } from '../fields/RackFilters.tsx';
import { STAGE_NAMES } from '../shared/stages.ts';
import type { InAddress } from '../shared/useInAddress.ts';

/** The board's name, and the button to what is asked of it. */
export function BoardName({ onAsk }: { onAsk: () => void }) {
  return (
    <Box
      className="boardname"
      sx={{ display: 'flex', alignItems: 'center', paddingLeft: { xs: '12px', lg: '20px' } }}
    >
      <Typography variant="h1" sx={{ whiteSpace: 'nowrap' }}>
        Now board
      </Typography>
      <IconButton
        size="small"
        aria-label="What the board shows"
        aria-haspopup="dialog"
        title="by station, model or order; which racks"
        onClick={onAsk}
      >
        <FilterListIcon fontSize="small" />
      </IconButton>
    </Box>
  );
}

/** The board's head is another one when its rows are: the button is looked for when it is needed. */
const askButton = (): HTMLElement =>
  document.querySelector<HTMLElement>('.boardname button') ?? document.body;

const ROWS = ['station', 'model', 'order'] as const;

/** What the board has a row for. */
export const rowsOf = ({ asked }: InAddress): (typeof ROWS)[number] =>
  ROWS.find((one) => one === asked('by')) ?? 'station';

/** What is asked of the board: a row for each station, model or order, and which racks. */
export function AskBoard({
  open,
  onClose,
  address,
}: {
  open: boolean;
  onClose: () => void;
  address: InAddress;
}) {
  const by = rowsOf(address);
  return (
    <Popover
      open={open}
      anchorEl={askButton}
      onClose={onClose}
      anchorOrigin={{ vertical: 'bottom', horizontal: 'left' }}
      disableRestoreFocus
      slotProps={{
        paper: { role: 'dialog', 'aria-label': 'What the board shows', sx: { padding: '16px' } },
        transition: { onExited: () => askButton().focus() },
      }}
    >
      <Stack sx={{ gap: '14px', alignItems: 'flex-start' }}>
        <ToggleButtonGroup
          exclusive
          value={by}
          onChange={(_, chosen: string | null) =>
            chosen && address.ask('by', chosen === 'station' ? '' : chosen)
          }
          aria-label="A row for each"
        >
          {ROWS.map((one) => (
            <ToggleButton key={one} value={one}>
              by {one}
            </ToggleButton>
          ))}
        </ToggleButtonGroup>
        <RackFilters address={address} />
      </Stack>
    </Popover>
  );
}

/** Says that not all is drawn, what is, and brings all back. */
export function NotAll({ board: { racks, drawn }, address }: { board: Board; address: InAddress }) {
  const { nameOf } = usePeople();
  const { asked } = address;
  const stage = STAGES.find((one) => one === asked('stage'));
  const what = [
    asked('model'),
    asked('late') && 'late',
    asked('person') && `in the hands of ${nameOf(asked('person'))}`,
    asked('order') && `with pieces for ${asked('order')}`,
  ].filter(Boolean);
  if (what.length === 0 && !stage) return null;
  return (
    <Box
      role="status"
      sx={{ display: 'flex', alignItems: 'center', gap: '12px', padding: '4px 20px', fontSize: 13 }}
    >
      <span>
        {what.length > 0 && (
          <>
            <strong>
              {drawn} of {count(racks, 'rack')}
            </strong>
            : {what.join(', ')}
            {stage && '; of these '}
          </>
        )}
        {stage && `what is in ${STAGE_NAMES[stage]}`}
      </span>
      <Button size="small" onClick={() => address.forget(RACK_FILTERS)}>
        Show all
      </Button>
    </Box>
  );
}
