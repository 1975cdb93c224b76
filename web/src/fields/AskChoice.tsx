import { MenuItem, TextField } from '@mui/material';
import { useController } from 'react-hook-form';
import { problemOfChoice, type Option } from './Choice.tsx';

/** One of a few, of a form. `none` is what an empty choice means; `needed` says what is missing where it may not be empty. */
export function AskChoice({
  name,
  label,
  options,
  none,
  needed,
  gone,
  hint,
  width,
}: {
  name: string;
  label: string;
  options: readonly Option[];
  none?: string;
  needed?: string;
  /** What is said of a choice that is not offered any more. */
  gone?: string;
  hint?: string | undefined;
  width?: number;
}) {
  const { field, fieldState } = useController<Record<string, string>>({
    name,
    // A field of a list of choices may not be there yet.
    defaultValue: '',
    rules: { validate: (value) => problemOfChoice(value, options, { needed, gone }) ?? true },
  });
  const value = options.some((option) => option.value === field.value) ? field.value : '';
  return (
    <TextField
      select
      label={label}
      name={name}
      inputRef={field.ref}
      value={value}
      error={fieldState.invalid}
      helperText={fieldState.error?.message ?? hint}
      onBlur={field.onBlur}
      onChange={field.onChange}
      sx={{ width }}
      slotProps={none === undefined ? {} : { inputLabel: { shrink: true }, select: { displayEmpty: true } }}
    >
      {none !== undefined && <MenuItem value="">{none}</MenuItem>}
      {options.map((option) => (
        <MenuItem key={option.value} value={option.value}>
          {option.words}
        </MenuItem>
      ))}
    </TextField>
  );
}
