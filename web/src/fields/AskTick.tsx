import { Checkbox, FormControlLabel } from '@mui/material';
import { useController } from 'react-hook-form';

/** Yes or no, of a form. */
export function AskTick({ name, label }: { name: string; label: string }) {
  const { field } = useController<Record<string, boolean>>({ name });
  return (
    <FormControlLabel
      control={
        <Checkbox
          name={name}
          slotProps={{ input: { ref: field.ref } }}
          checked={field.value}
          onBlur={field.onBlur}
          onChange={(_, on) => field.onChange(on)}
        />
      }
      label={label}
    />
  );
}
