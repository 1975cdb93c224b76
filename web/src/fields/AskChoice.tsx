import { Choice, problemOfChoice, type Option } from './Choice.tsx';
import { useAsked } from './useAsked.ts';

/** One of a few, of a form. `none` is what an empty choice means; `needed` says what is missing where it may not be empty. */
export function AskChoice({
  name,
  label,
  options,
  none,
  needed,
  width,
}: {
  name: string;
  label: string;
  options: readonly Option[];
  none?: string;
  needed?: string;
  width?: number;
}) {
  const { field, shared } = useAsked(name, (value) => problemOfChoice(value, options, needed));
  const value = options.some((option) => option.value === field.value) ? field.value : '';
  return (
    <Choice
      label={label}
      value={value}
      onChange={field.onChange}
      options={options}
      asked={shared}
      {...(none === undefined ? {} : { none })}
      {...(width === undefined ? {} : { width })}
    />
  );
}
