import { wordsIn } from '@ample-crane/core';
import { TextField } from '@mui/material';
import { useUnits } from '../shared/units.ts';
import { problemOfNumber, type NumberLimits } from './number-limits.ts';
import { shownIn } from './shown-in.ts';
import { unitSlots } from './unit-slots.tsx';
import { useAsked } from './useAsked.ts';
import { useTurned } from './useTurned.ts';

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
  },
) {
  const { name, label, unit = '', several = false, placeholder, hint, width = several ? 220 : 130 } = props;
  const units = useUnits();
  const { field, shared } = useAsked(
    name,
    (text) => problemOfNumber(text, props, (words) => wordsIn(words, units)),
    hint,
  );
  const { text, sign, type } = useTurned(field.value, field.onChange, { unit, several });
  return (
    <TextField
      {...shared}
      label={label}
      value={text}
      placeholder={placeholder === undefined ? undefined : shownIn(placeholder, unit, units)}
      onChange={(event) => type(event.target.value)}
      sx={{ width }}
      slotProps={{
        ...unitSlots(label, sign),
        ...(placeholder === undefined && !sign ? {} : { inputLabel: { shrink: true } }),
      }}
    />
  );
}
