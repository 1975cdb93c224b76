import { Checkbox, FormControl, FormControlLabel, FormGroup, FormHelperText, FormLabel } from '@mui/material';
import { useController } from 'react-hook-form';
import type { Option } from './Choice.tsx';

/** Some of a few, of a form: a list of their values. `needed` says what is missing where none may not be. */
export function AskSeveral({
  name,
  label,
  options,
  needed,
}: {
  name: string;
  label: string;
  options: readonly Option[];
  needed?: string;
}) {
  const { field, fieldState } = useController<Record<string, string[]>>({
    name,
    rules: {
      validate: (chosen) => options.some(({ value }) => chosen.includes(value)) || needed || true,
    },
  });
  const turn = (value: string, on: boolean): void =>
    // In the order in which they are offered; what is offered no more falls out.
    field.onChange(
      options.map((option) => option.value).filter((one) => (one === value ? on : field.value.includes(one))),
    );
  return (
    <FormControl component="fieldset" error={fieldState.invalid} onBlur={field.onBlur}>
      <FormLabel component="legend">{label}</FormLabel>
      <FormGroup row>
        {options.map(({ value, words }, i) => (
          <FormControlLabel
            key={value}
            control={
              <Checkbox
                name={name}
                slotProps={{ input: i === 0 ? { ref: field.ref } : {} }}
                checked={field.value.includes(value)}
                onChange={(_, on) => turn(value, on)}
              />
            }
            label={words}
          />
        ))}
      </FormGroup>
      <FormHelperText>{fieldState.error?.message}</FormHelperText>
    </FormControl>
  );
}
