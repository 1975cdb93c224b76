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
        title="by station or by model; which racks"
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

/** What is asked of the board: a row for each station or each model, and which racks. */
export function AskBoard({
  open,
  onClose,
  address,
}: {
  open: boolean;
  onClose: () => void;
  address: InAddress;
}) {
  const by = address.asked('by') === 'model' ? 'model' : 'station';
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
            chosen && address.ask('by', chosen === 'model' ? chosen : '')
          }
          aria-label="A row for each"
        >
          <ToggleButton value="station">by station</ToggleButton>
          <ToggleButton value="model">by model</ToggleButton>
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
