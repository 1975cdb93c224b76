import { InputAdornment } from '@mui/material';

/** What a field of a number with a unit adds to MUI's: the sign stands in it, and who hears the field hears it, too. '' is no unit. */
export function unitSlots(label: string, sign: string) {
  return {
    htmlInput: {
      inputMode: 'decimal' as const,
      autoComplete: 'off',
      ...(sign ? { 'aria-label': `${label}, ${sign}` } : {}),
    },
    ...(sign
      ? {
          input: { endAdornment: <InputAdornment position="end">{sign}</InputAdornment> },
          inputLabel: { shrink: true },
        }
      : {}),
  };
}
