import { TextField } from '@mui/material';
import { typedNumber } from '../shared/typed.ts';

/** A number as it is typed into a form: kept as text, so that nothing typed is lost, and marked while it is none. */
export function Typed({
  label,
  text,
  onChange,
  placeholder,
  width = 90,
}: {
  label: string;
  text: string;
  onChange: (text: string) => void;
  placeholder?: string;
  width?: number;
}) {
  return (
    <TextField
      label={label}
      placeholder={placeholder}
      value={text}
      error={text.trim() !== '' && typedNumber(text) === null}
      onChange={(event) => onChange(event.target.value)}
      sx={{ width }}
      slotProps={{
        htmlInput: { inputMode: 'decimal' },
        ...(placeholder === undefined ? {} : { inputLabel: { shrink: true } }),
      }}
    />
  );
}
