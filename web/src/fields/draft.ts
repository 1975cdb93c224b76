import { useCallback, useEffect, useRef, useState } from 'react';
import { forget, recall, recalled } from './session.ts';
import { useForm, type DefaultValues, type FieldValues, type UseFormReturn } from 'react-hook-form';

/** What is being filled in: survives a reload, a lost line and a look at another page, until it is filed or left. */
export interface Draft<T extends FieldValues> {
  form: UseFormReturn<T>;
  /**
   * Files it by `work`, if no field is wrong; what that resolves to says whether it is filed. From then on the outbox keeps it, so that
   * a reload does not offer it to be filed again; what is refused is kept here as before. What was filed goes out of the fields; what
   * was typed since, and what `keep` names, stays for the next.
   */
  submit: (work: (values: T) => unknown) => Promise<void>;
  /** Back to how it began. */
  leave: () => void;
}

/**
 * @param name of what is filled in, the same after a reload: 'weigh P-3'. Another name is another form: give its component a key.
 * @param begin how every field begins: texts, ticks, lists of texts
 * @param options.keep fields that the next filing will want again
 */
export function useDraft<T extends FieldValues>(
  name: string,
  begin: T,
  { keep = [] }: { keep?: readonly (keyof T & string)[] } = {},
): Draft<T> {
  const [empty] = useState(begin);
  const [kept] = useState(() => keptOf(name, empty));
  const form = useForm<T>({ defaultValues: { ...empty, ...kept } as DefaultValues<T>, mode: 'onTouched' });
  const filing = useRef(false);
  useEffect(
    () =>
      form.subscribe({
        formState: { values: true },
        callback: ({ values }) => {
          if (!filing.current) put(name, values, empty);
        },
      }),
    [form, name, empty],
  );
  const file = async (values: T, work: (values: T) => unknown): Promise<void> => {
    filing.current = true;
    forget(name);
    try {
      if (!(await work(values))) return;
      const next = Object.entries(form.getValues()).map(([field, now]): [string, unknown] => {
        const stays = keep.includes(field) || !same(now, values[field]);
        return [field, stays ? now : empty[field]];
      });
      form.reset(Object.fromEntries(next) as T);
    } finally {
      filing.current = false;
      put(name, form.getValues(), empty);
    }
  };
  const leave = useCallback(() => {
    form.reset(empty);
    forget(name);
  }, [form, name, empty]);
  return { form, submit: (work) => form.handleSubmit((values) => file(values, work))(), leave };
}

/** What is kept under the name, field by field where it is of the kind the field has; anything else is not believed. */
function keptOf<T extends FieldValues>(name: string, empty: T): Partial<T> {
  const kept = recalled(name);
  if (typeof kept !== 'object' || kept === null) return {};
  const own = Object.entries(kept).filter(([field, value]) => alike(value, empty[field]));
  return Object.fromEntries(own) as Partial<T>;
}

const alike = (one: unknown, other: unknown): boolean =>
  typeof one === typeof other && one !== null && Array.isArray(one) === Array.isArray(other);

const same = (one: unknown, other: unknown): boolean => JSON.stringify(one) === JSON.stringify(other);

const put = (name: string, values: FieldValues, empty: FieldValues): void =>
  same(values, empty) ? forget(name) : recall(name, values);
