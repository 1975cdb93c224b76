import { TextField } from '@mui/material';
import { useController } from 'react-hook-form';

/** Longest reason, cause or note that is kept with an entry. */
const LONGEST_REASON = 200;

/** A line of words of a form. What is too long is said to be, and stays to be shortened. */
export function AskWords(props: {
  name: string;
  label: string;
  /** What is said where nothing is typed; left out, it may be empty. */
  needed?: string | undefined;
  most?: number;
  /** More that is wrong with it, in words. */
  wrong?: (text: string) => string | undefined;
  /** As it is typed: codes in capitals. */
  capitals?: boolean;
  placeholder?: string | undefined;
  hint?: string | undefined;
  /** px; left out, it takes the room there is. */
  width?: number;
  /** It may have several lines. */
  lines?: boolean;
  autoFocus?: boolean;
}) {
  const {
    name,
    label,
    needed,
    most = LONGEST_REASON,
    wrong,
    capitals = false,
    placeholder,
    hint,
    width,
    lines,
  } = props;
  const { field, fieldState } = useController<Record<string, string>>({
    name,
    rules: {
      validate: (text) => {
        if (text.trim() === '') return needed ?? true;
        if (text.length > most) return `${text.length} characters, ${most} at most`;
        return wrong?.(text) ?? true;
      },
    },
  });
  return (
    <TextField
      label={label}
      name={name}
      inputRef={field.ref}
      value={field.value}
      placeholder={placeholder}
      error={fieldState.invalid}
      helperText={fieldState.error?.message ?? hint}
      autoFocus={props.autoFocus}
      multiline={lines}
      fullWidth={width === undefined}
      onBlur={field.onBlur}
      onChange={({ target }) => field.onChange(capitals ? target.value.toUpperCase() : target.value)}
      sx={{ width }}
      slotProps={{
        // Of whoever writes from the right, too.
        htmlInput: { autoComplete: 'off', dir: 'auto' },
        ...(placeholder === undefined ? {} : { inputLabel: { shrink: true } }),
      }}
    />
  );
}
