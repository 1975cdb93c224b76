import { TextField } from '@mui/material';
import { useAsked } from './useAsked.ts';

/** Lines that are typed or pasted, of a form: a sheet, a list. The page says what is wrong with them. */
export function AskText({
  name,
  label,
  placeholder,
  wrong,
  least = 2,
  most = 8,
}: {
  name: string;
  label: string;
  placeholder: string;
  wrong?: (text: string) => string | undefined;
  /** Lines that are seen at least, and at most before it scrolls. */
  least?: number;
  most?: number;
}) {
  const { field, shared } = useAsked(name, (text) => wrong?.(text));
  return (
    <TextField
      {...shared}
      label={label}
      value={field.value}
      placeholder={placeholder}
      multiline
      minRows={least}
      maxRows={most}
      fullWidth
      onChange={field.onChange}
      slotProps={{ inputLabel: { shrink: true } }}
    />
  );
}
