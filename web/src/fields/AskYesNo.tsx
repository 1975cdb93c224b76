import { Box, ToggleButton, ToggleButtonGroup, Typography } from '@mui/material';
import { useController } from 'react-hook-form';

/** What is looked at: yes, no, or not looked at yet; of a form, as 'yes', 'no' and ''. */
export function AskYesNo({ name, label }: { name: string; label: string }) {
  const { field } = useController<Record<string, string>>({ name, defaultValue: '' });
  return (
    <Box>
      <Typography id={`${name}-label`} className="visually-hidden">
        {label}
      </Typography>
      <ToggleButtonGroup
        exclusive
        aria-labelledby={`${name}-label`}
        value={field.value}
        onBlur={field.onBlur}
        onChange={(_, said: string | null) => field.onChange(said ?? '')}
      >
        <ToggleButton value="yes" ref={field.ref} sx={{ minWidth: 60, minHeight: 44 }}>
          Yes
        </ToggleButton>
        <ToggleButton value="no" sx={{ minWidth: 60, minHeight: 44 }}>
          No
        </ToggleButton>
      </ToggleButtonGroup>
    </Box>
  );
}
