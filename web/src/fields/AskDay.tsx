import { useController } from 'react-hook-form';
import { DayField } from './DayField.tsx';

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
  const { field, fieldState } = useController<Record<string, string>>({
    name,
    rules: { validate: (day) => (day === '' ? needed : wrong?.(day)) ?? true },
  });
  return (
    <DayField
      label={label}
      value={field.value}
      onChange={field.onChange}
      zone={zone}
      problem={fieldState.error?.message}
      {...(width === undefined ? {} : { width })}
    />
  );
}
