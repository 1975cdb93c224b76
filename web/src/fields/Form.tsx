import { Box, Stack } from '@mui/material';
import type { CSSProperties, KeyboardEvent, ReactNode, SubmitEvent } from 'react';
import { Panel, Row } from '../parts/index.ts';

/**
 * What is filled in and then filed: by its button, by Enter in a field of one line, by Ctrl or ⌘ with Enter anywhere. Escape leaves it,
 * and the house's keys are heard again.
 */
export function Form(props: {
  label?: string;
  /** Fields side by side, or one below the other. */
  lay?: 'row' | 'stack';
  /** On a sheet of paper of its own. */
  panel?: boolean;
  onFile: () => unknown;
  /** Fields are judged by the form itself, in its own words. */
  noValidate?: boolean;
  className?: string;
  style?: CSSProperties;
  children: ReactNode;
}) {
  const { label, lay, panel, onFile, noValidate, className, style, children } = props;
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
      noValidate={noValidate}
      className={className}
      style={style}
      sx={{ minWidth: 0 }}
    >
      {lay === 'row' && <Row>{children}</Row>}
      {lay === 'stack' && <Stack>{children}</Stack>}
      {!lay && children}
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
