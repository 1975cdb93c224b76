import { TextField } from '@mui/material';
import { useAsked } from './useAsked.ts';

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
  } = props;
  const { field, shared } = useAsked(
    name,
    (text) => {
      if (text.trim() === '') return needed;
      return text.length > most ? `${text.length} characters, ${most} at most` : wrong?.(text);
    },
    hint,
  );
  return (
    <TextField
      {...shared}
      label={label}
      value={field.value}
      placeholder={placeholder}
      fullWidth={width === undefined}
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
