import { TextField } from '@mui/material';
import { useState } from 'react';
import { typedNumber } from '../shared/typed.ts';

/** A number typed into a draft: what is no number is shown as wrong and not taken. */
export function NumberField({
  label,
  value,
  onChange,
  optional = false,
  width = 118,
}: {
  label: string;
  value: number | null | undefined;
  onChange: (value: number | null) => void;
  optional?: boolean;
  width?: number;
}) {
  const [text, setText] = useState(value == null ? '' : String(value));
  const empty = text.trim() === '';
  const wrong = empty ? !optional : typedNumber(text) === null;
  return (
    <TextField
      label={label}
      value={text}
      error={wrong}
      helperText={wrong ? 'a number' : undefined}
      onChange={(event) => {
        setText(event.target.value);
        const number = typedNumber(event.target.value);
        if (number !== null) onChange(number);
        else if (optional && event.target.value.trim() === '') onChange(null);
      }}
      slotProps={{ htmlInput: { inputMode: 'decimal' } }}
      sx={{ width }}
    />
  );
}
