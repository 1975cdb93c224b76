import { MenuItem, TextField } from '@mui/material';

export interface Option {
  value: string;
  words: string;
}

/** The values of a short list as options that read as they are. */
export const asOptions = (values: readonly string[]): Option[] =>
  values.map((value) => ({ value, words: value }));

/** What is wrong with what is chosen, in words. What was chosen may have gone since: nothing else is taken in its place. */
export function problemOfChoice(
  value: string,
  options: readonly Option[],
  { needed, gone = 'it is gone: choose again' }: { needed?: string | undefined; gone?: string | undefined },
): string | undefined {
  if (value === '') return needed;
  return options.some((option) => option.value === value) ? undefined : gone;
}

/** One of a few. `none` is what an empty choice means; without it something is always chosen. */
export function Choice({
  label,
  value,
  onChange,
  options,
  none,
  width,
}: {
  label: string;
  value: string;
  onChange: (value: string) => void;
  options: readonly Option[];
  none?: string;
  width?: number;
}) {
  return (
    <TextField
      select
      label={label}
      value={value}
      onChange={(event) => onChange(event.target.value)}
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
