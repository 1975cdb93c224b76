import { Autocomplete, TextField } from '@mui/material';
import { useState } from 'react';
import { problemOfChoice, type Option } from './Choice.tsx';
import { useAsked } from './useAsked.ts';

/**
 * One of many, found by typing a piece of its words or code, or by a scan: a code typed whole is that one, whatever else begins with it.
 */
export function AskFrom({
  name,
  label,
  options,
  needed,
  placeholder,
  width,
}: {
  name: string;
  label: string;
  options: readonly Option[];
  needed?: string;
  placeholder?: string;
  width?: number;
}) {
  const [typed, setTyped] = useState('');
  const { field, shared } = useAsked(name, (value) => problemOfChoice(value, options, needed));
  return (
    <Autocomplete
      options={found(options, typed)}
      // Found above, whole codes first.
      filterOptions={(all) => all}
      value={options.find(({ value }) => value === field.value) ?? null}
      inputValue={typed}
      onInputChange={(_, text) => setTyped(text)}
      onChange={(_, option) => field.onChange(option?.value ?? '')}
      getOptionLabel={({ words }) => words}
      getOptionKey={({ value }) => value}
      isOptionEqualToValue={(one, other) => one.value === other.value}
      autoHighlight
      handleHomeEndKeys
      openText="show all"
      closeText="close the list"
      clearText="empty it"
      noOptionsText={`nothing here is called '${typed}'`}
      sx={{ width }}
      renderInput={(input) => (
        <TextField
          {...input}
          {...shared}
          label={label}
          placeholder={placeholder}
          slotProps={{
            ...input.slotProps,
            inputLabel: {
              ...input.slotProps.inputLabel,
              ...(placeholder === undefined ? {} : { shrink: true }),
            },
          }}
        />
      )}
    />
  );
}

function found(options: readonly Option[], typed: string): Option[] {
  const wanted = typed.trim().toLowerCase();
  if (wanted === '' || options.some(({ words }) => words === typed)) return [...options];
  const whole = options.filter(({ value }) => value.toLowerCase() === wanted);
  const parts = options.filter(
    (option) =>
      !whole.includes(option) &&
      (option.value.toLowerCase().includes(wanted) || option.words.toLowerCase().includes(wanted)),
  );
  return [...whole, ...parts];
}
