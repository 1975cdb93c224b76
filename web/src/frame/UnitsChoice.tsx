import type { ChosenUnits } from '@ample-crane/core';
import { Popover, Stack, ToggleButton, ToggleButtonGroup, Typography } from '@mui/material';
import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { answered, server, ServerProblem } from '../api/client.ts';
import { useSetup, type Setup } from '../api/queries.ts';
import { Quiet, Refused } from '../parts/index.ts';
import { usePerson } from '../shared/person.ts';
import { useUnits } from '../shared/units.ts';

/** The units of whoever is at this screen: they go with the person to every other screen. */
export default function UnitsChoice({ anchor, onClose }: { anchor: HTMLElement; onClose: () => void }) {
  const units = useUnits();
  const { by } = usePerson();
  const { data: setup } = useSetup();
  const queries = useQueryClient();
  const [refused, setRefused] = useState<string | null>(null);
  const name = setup?.people.find(({ code }) => code === by)?.name ?? by;
  const choose = async (change: Partial<ChosenUnits>): Promise<void> => {
    setRefused(null);
    // Shown at once: the next touch begins from it, whether or not the server has answered.
    const known = queries.getQueryData<Setup>(['setup'])?.people.find(({ code }) => code === by)?.units;
    const body = { ...(known ?? units), ...change };
    queries.setQueryData<Setup>(
      ['setup'],
      (setup) =>
        setup && {
          ...setup,
          people: setup.people.map((one) => (one.code === by ? { ...one, units: body } : one)),
        },
    );
    try {
      await answered(server.PUT('/api/setup/people/{code}/units', { params: { path: { code: by } }, body }));
    } catch (problem) {
      if (!(problem instanceof ServerProblem)) throw problem;
      setRefused(problem.message);
      await queries.invalidateQueries({ queryKey: ['setup'] });
    }
  };
  return (
    <Popover
      open
      anchorEl={anchor}
      onClose={onClose}
      anchorOrigin={{ vertical: 'bottom', horizontal: 'right' }}
      transformOrigin={{ vertical: 'top', horizontal: 'right' }}
      slotProps={{
        paper: { role: 'dialog', 'aria-label': 'Units', sx: { padding: '14px 16px', maxWidth: 300 } },
      }}
    >
      <Stack sx={{ gap: '10px' }}>
        <Typography variant="h3">Units of {name}</Typography>
        <ToggleButtonGroup
          exclusive
          value={units.length}
          onChange={(_, length: ChosenUnits['length'] | null) => length && void choose({ length })}
          aria-label="Lengths and films"
        >
          <ToggleButton value="mm">mm, µm</ToggleButton>
          <ToggleButton value="in">inch, mil</ToggleButton>
        </ToggleButtonGroup>
        <ToggleButtonGroup
          exclusive
          value={units.temperature}
          onChange={(_, temperature: ChosenUnits['temperature'] | null) =>
            temperature && void choose({ temperature })
          }
          aria-label="Temperatures"
        >
          <ToggleButton value="C">°C</ToggleButton>
          <ToggleButton value="F">°F</ToggleButton>
        </ToggleButtonGroup>
        <Quiet>
          Fields take what you read: an inch also as 2 3/16. The log line, files and what is kept stay metric.
        </Quiet>
        <Refused words={refused} />
      </Stack>
    </Popover>
  );
}
