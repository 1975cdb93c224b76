import './Strip.css';
export interface StripStep {
  key: string;
  name: string;
  kind: 'work' | 'hold' | 'join' | 'gate';
  state: 'done' | 'here' | 'ahead';
  /** Pieces that stand here now. */
  here: number;
  /** When it was done, or when it is planned, in words. */
  time: string | null;
  /** Index of the step that pieces were sent back to from here. */
  reworkTo: number | null;
}

/** A route as one line of operations: done, here, ahead; joins as diamonds, holds as rounds, rework as arcs. */
export function Strip({ steps, label }: { steps: readonly StripStep[]; label: string }) {
  const share = (index: number): number => (100 * (index + 0.5)) / steps.length;
  return (
    <ol
      className="strip"
      aria-label={label}
      style={{ gridTemplateColumns: `repeat(${steps.length}, minmax(0, 1fr))` }}
    >
      <svg viewBox="0 0 100 26" preserveAspectRatio="none" aria-hidden="true">
        {steps.map((step, i) =>
          step.reworkTo === null ? null : (
            <path
              key={step.key}
              d={`M${share(i)} 25C${share(i)} 2 ${share(step.reworkTo)} 2 ${share(step.reworkTo)} 25`}
              fill="none"
              stroke="var(--shellac)"
              strokeWidth="1.6"
              strokeDasharray="4 3"
              vectorEffect="non-scaling-stroke"
            />
          ),
        )}
      </svg>
      {steps.map((step) => (
        <li
          key={step.key}
          className={`${step.state} ${step.kind}`}
          aria-current={step.state === 'here' ? 'step' : undefined}
        >
          <span className="node" aria-hidden="true" />
          {step.here > 0 && <span className="here-count">{step.here} here</span>}
          {step.name}
          {step.time && <span className="step-time"> {step.time}</span>}
          <span className="visually-hidden"> ({step.state})</span>
        </li>
      ))}
    </ol>
  );
}
