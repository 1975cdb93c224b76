import { signIn, typedIn, wordsIn, type ChosenUnits } from '@ample-crane/core';
import { InputAdornment, TextField } from '@mui/material';
import { useState } from 'react';
import { useController } from 'react-hook-form';
import { useUnits } from '../shared/units.ts';
import { shownIn } from './shown-in.ts';
import { problemOfNumber, type NumberLimits } from './number-limits.ts';

/**
 * A number of a form, its unit in the field. The form keeps it as text in the metric unit; who chose inch or °F types and reads it so.
 * Several numbers have a space between them.
 */
export function AskNumber(
  props: NumberLimits & {
    name: string;
    label: string;
    placeholder?: string | undefined;
    /** Said below the field while nothing is wrong. */
    hint?: string | undefined;
    width?: number;
    autoFocus?: boolean;
  },
) {
  const {
    name,
    label,
    unit = '',
    several = false,
    placeholder,
    hint,
    width = several ? 220 : 130,
    autoFocus,
  } = props;
  const units = useUnits();
  const { field, fieldState } = useController<Record<string, string>>({
    name,
    rules: { validate: (text) => problemOfNumber(text, props, (words) => wordsIn(words, units)) ?? true },
  });
  const [typed, setTyped] = useState<{ metric: string; text: string; units: ChosenUnits } | null>(null);
  const isTyped = typed !== null && typed.metric === field.value && typed.units === units;
  const text = isTyped ? typed.text : shownIn(field.value, unit, units);
  const sign = signIn(unit, units);
  const type = (next: string): void => {
    const metric = sign === unit ? next : metricOf(next, unit, { several, units });
    setTyped({ metric, text: next, units });
    field.onChange(metric);
  };
  return (
    <TextField
      label={label}
      name={name}
      inputRef={field.ref}
      value={text}
      placeholder={placeholder === undefined ? undefined : shownIn(placeholder, unit, units)}
      error={fieldState.invalid}
      helperText={fieldState.error?.message ?? hint}
      autoFocus={autoFocus}
      onBlur={field.onBlur}
      onChange={(event) => type(event.target.value)}
      sx={{ width }}
      slotProps={{
        htmlInput: {
          inputMode: 'decimal',
          autoComplete: 'off',
          // Who hears the field hears its unit.
          ...(sign ? { 'aria-label': `${label}, ${sign}` } : {}),
        },
        input: sign ? { endAdornment: <InputAdornment position="end">{sign}</InputAdornment> } : {},
        ...(placeholder === undefined && !sign ? {} : { inputLabel: { shrink: true } }),
      }}
    />
  );
}

/** What was typed in the chosen unit, in the metric one; what is no number stays as it is, to be told so. */
function metricOf(
  text: string,
  unit: string,
  { several, units }: { several: boolean; units: ChosenUnits },
): string {
  const parts = several ? text.split(/([\s;]+)/) : [text];
  return parts.map((part) => String(typedIn(part, unit, units) ?? part)).join('');
}
