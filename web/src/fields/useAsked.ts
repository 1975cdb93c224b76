import { useController, type ControllerRenderProps } from 'react-hook-form';

/** A field of a form that is asked by its name: what it holds, and what of it every text field of MUI wants. */
export interface Asked {
  field: ControllerRenderProps<Record<string, string>, string>;
  shared: {
    name: string;
    inputRef: (element: unknown) => void;
    error: boolean;
    helperText: string | undefined;
    onBlur: () => void;
  };
}

/**
 * @param wrong what is wrong with a value, in words; undefined or null: nothing
 * @param hint said below the field while nothing is wrong
 */
export function useAsked(
  name: string,
  wrong: (value: string) => string | null | undefined,
  hint?: string,
): Asked {
  const { field, fieldState } = useController<Record<string, string>>({
    name,
    // A field of a list that grows may not be there yet.
    defaultValue: '',
    rules: { validate: (value) => wrong(value) ?? true },
  });
  const helperText = fieldState.error?.message ?? hint;
  const { ref, onBlur } = field;
  return { field, shared: { name, inputRef: ref, error: fieldState.invalid, helperText, onBlur } };
}
