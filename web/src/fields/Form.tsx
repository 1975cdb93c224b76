import { Box, Stack } from '@mui/material';
import { useEffect, type CSSProperties, type KeyboardEvent, type ReactNode, type SubmitEvent } from 'react';
import { FormProvider, type FieldValues, type Path } from 'react-hook-form';
import type { ServerProblem } from '../api/client.ts';
import { Panel, Refused, Row } from '../parts/index.ts';
import type { Draft } from './draft.ts';
import { saidOfFields } from './said-of-fields.ts';

interface Look {
  label?: string;
  /** Fields side by side, or one below the other. */
  lay?: 'row' | 'stack';
  /** On a sheet of paper of its own. */
  panel?: boolean;
  className?: string;
  style?: CSSProperties;
  /** What is said below what is filled in. */
  below?: ReactNode;
  children: ReactNode;
}

/**
 * What is filled in and then filed: by its button, by Enter in a field of one line, by Ctrl or ⌘ with Enter anywhere. Escape leaves it,
 * and the house's keys are heard again. Fields that are wrong say so and why, the first of them gets the focus, and nothing is filed.
 */
export function Form<T extends FieldValues>(
  props: Look & {
    draft: Draft<T>;
    /** Files what was filled in; what it resolves to says whether it is filed. */
    onFile: (values: T) => unknown;
    /** What the server said to it: at the field it speaks of, the rest below. */
    refusal?: ServerProblem | null;
  },
) {
  const { draft, onFile, refusal = null, children, ...look } = props;
  const { form } = draft;
  const { known, rest } = saidOfFields(refusal, Object.keys(form.getValues()));
  useEffect(() => {
    // A new refusal is said at its fields once: what is typed then takes it away.
    for (const [field, message] of saidOfFields(refusal, Object.keys(form.getValues())).known)
      form.setError(field as Path<T>, { type: 'server', message }, { shouldFocus: true });
  }, [refusal, form]);
  return (
    <FormProvider {...form}>
      <PlainForm
        {...look}
        onFile={() => draft.submit(onFile)}
        below={
          <Refused words={rest ?? (known.length > 0 ? 'See the field above; nothing was filed.' : null)} />
        }
      >
        {children}
      </PlainForm>
    </FormProvider>
  );
}

/** The frame and the keys of a form whose page keeps what is typed: a line, a sheet of places, an editor. */
export function PlainForm(props: Look & { onFile: () => unknown }) {
  const { label, lay, panel, onFile, className, style, below, children } = props;
  const submit = (event: SubmitEvent): void => {
    event.preventDefault();
    event.stopPropagation();
    onFile();
  };
  const form = (
    <Box
      component="form"
      aria-label={label}
      onSubmit={submit}
      onKeyDown={pressed}
      // Fields are judged in our own words.
      noValidate
      className={className}
      style={style}
      // What is said below one field does not move the others.
      sx={{ minWidth: 0, '& [data-row]': { alignItems: 'flex-start' } }}
    >
      {lay === 'row' && <Row>{children}</Row>}
      {lay === 'stack' && <Stack>{children}</Stack>}
      {!lay && children}
      {below}
    </Box>
  );
  return panel ? <Panel>{form}</Panel> : form;
}

function pressed(event: KeyboardEvent<HTMLFormElement>): void {
  if (event.defaultPrevented) return;
  if (event.key === 'Escape' && event.target instanceof HTMLElement) event.target.blur();
  if (event.key !== 'Enter' || !(event.ctrlKey || event.metaKey)) return;
  event.preventDefault();
  // By its button, which says whether it can be filed now.
  event.currentTarget.querySelector<HTMLButtonElement>('button[type="submit"]')?.click();
}
