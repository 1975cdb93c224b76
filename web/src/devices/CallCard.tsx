import { Button } from '@mui/material';
import { Link } from 'react-router';

export interface CallAction {
  label: string;
  line?: string;
  href?: string;
}

export interface CallCardProps {
  kind: string;
  title: string;
  detail: string;
  evidence: string;
  actions: readonly CallAction[];
  /** Files a log line. */
  onLine: (line: string) => void;
  busy?: boolean;
}

/** A decision that wants the manager: what it is, the numbers that make it true, what can be done right here. */
export function CallCard({ kind, title, detail, evidence, actions, onLine, busy = false }: CallCardProps) {
  return (
    <article className={`call ${kind}`}>
      <h3>
        <Link to={evidence}>{title}</Link>
      </h3>
      <p>{detail}</p>
      <div className="row">
        {actions.map((action, i) => {
          const variant = i === 0 ? 'contained' : 'outlined';
          return action.line !== undefined ? (
            <Button
              key={action.label}
              variant={variant}
              disabled={busy}
              onClick={() => onLine(action.line ?? '')}
            >
              {action.label}
            </Button>
          ) : (
            <Button key={action.label} variant={variant} component={Link} to={action.href ?? evidence}>
              {action.label}
            </Button>
          );
        })}
      </div>
    </article>
  );
}
