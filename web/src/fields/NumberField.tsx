import { signIn, typedIn, type ChosenUnits } from '@ample-crane/core';
import { TextField } from '@mui/material';
import { useState } from 'react';
import { useUnits } from '../shared/units.ts';
import { shownIn } from './shown-in.ts';
import { unitSlots } from './unit-slots.tsx';

/**
 * A number typed into a draft: what is no number is shown as wrong and not taken. With `unit` it is told in the field, and who chose inch
 * or °F types and reads it so; what is taken is metric.
 */
export function NumberField({
  label,
  spoken = label,
  value,
  onChange,
  unit = '',
  optional = false,
  width = 118,
}: {
  label: string;
  /** What who hears it is told, where several stand under one label. */
  spoken?: string;
  value: number | null | undefined;
  onChange: (value: number | null) => void;
  unit?: string;
  optional?: boolean;
  width?: number;
}) {
  const units = useUnits();
  const shown = value == null ? '' : shownIn(String(value), unit, units);
  const [typed, setTyped] = useState<{ text: string; units: ChosenUnits } | null>(null);
  const text = typed?.units === units ? typed.text : shown;
  const empty = text.trim() === '';
  const wrong = empty ? !optional : typedIn(text, unit, units) === null;
  const sign = signIn(unit, units);
  return (
    <TextField
      label={label}
      value={text}
      error={wrong}
      helperText={wrong ? 'a number' : undefined}
      onChange={(event) => {
        setTyped({ text: event.target.value, units });
        const number = typedIn(event.target.value, unit, units);
        if (number !== null) onChange(number);
        else if (optional && event.target.value.trim() === '') onChange(null);
      }}
      slotProps={unitSlots(spoken, sign)}
      sx={{ width }}
    />
  );
}
