import { Typography } from '@mui/material';
import type { ReactNode } from 'react';
import './Verdict.css';

export type VerdictTone = 'good' | 'wait' | 'bad' | 'hold';

/** Every computed judgement: one sentence first, its proof underneath. */
export function Verdict({
  tone,
  sentence,
  children,
}: {
  tone: VerdictTone;
  sentence: string;
  children?: ReactNode;
}) {
  return (
    <section className={`verdict ${tone}`} aria-label={sentence}>
      <Typography className="sentence">{sentence}</Typography>
      {children}
    </section>
  );
}
