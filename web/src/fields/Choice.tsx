import { MenuItem, TextField } from '@mui/material';
import type { Asked } from './useAsked.ts';

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
  needed: string | undefined,
): string | undefined {
  if (value === '') return needed;
  return options.some((option) => option.value === value) ? undefined : 'it is gone: choose again';
}

/** One of a few. `none` is what an empty choice means; without it something is always chosen. */
export function Choice({
  label,
  value,
  onChange,
  options,
  none,
  width,
  asked,
}: {
  label: string;
  value: string;
  onChange: (value: string) => void;
  options: readonly Option[];
  none?: string;
  width?: number;
  /** What it is in a form. */
  asked?: Asked['shared'];
}) {
  return (
    <TextField
      select
      {...asked}
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
