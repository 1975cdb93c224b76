import { TextField } from '@mui/material';
import { useController } from 'react-hook-form';

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
  const { field, fieldState } = useController<Record<string, string>>({
    name,
    rules: { validate: (text) => wrong?.(text) ?? true },
  });
  return (
    <TextField
      label={label}
      name={name}
      inputRef={field.ref}
      value={field.value}
      placeholder={placeholder}
      error={fieldState.invalid}
      helperText={fieldState.error?.message}
      multiline
      minRows={least}
      maxRows={most}
      fullWidth
      onBlur={field.onBlur}
      onChange={field.onChange}
      slotProps={{ inputLabel: { shrink: true } }}
    />
  );
}
