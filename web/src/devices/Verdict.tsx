import type { ReactNode } from 'react';

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
      <p className="sentence">{sentence}</p>
      {children}
    </section>
  );
}
