import { DayField } from './DayField.tsx';
import { useAsked } from './useAsked.ts';

/** A day of a form, of the factory's calendar: '2026-11-24', '' while there is none. */
export function AskDay({
  name,
  label,
  zone,
  needed,
  wrong,
  width,
}: {
  name: string;
  label: string;
  /** The factory's time zone. */
  zone: string;
  needed?: string;
  /** More that is wrong with a day, in words. */
  wrong?: (day: string) => string | undefined;
  width?: number;
}) {
  const { field, shared } = useAsked(name, (day) => (day === '' ? needed : wrong?.(day)));
  return (
    <DayField
      label={label}
      value={field.value}
      onChange={field.onChange}
      zone={zone}
      problem={shared.helperText}
      {...(width === undefined ? {} : { width })}
    />
  );
}
