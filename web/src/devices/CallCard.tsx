import { Box, Button, Collapse, Stack, Typography } from '@mui/material';
import { lazy, Suspense, useState, type ReactNode } from 'react';
import { Link } from 'react-router';
import { Running, useRun, type Lines } from '../parts/index.ts';
import type { Item } from './CallItems.tsx';

/** Of most calls nobody ever looks at what stands behind. */
const CallItems = lazy(() => import('./CallItems.tsx'));

export interface CallAction {
  label: string;
  line?: string;
  /** The lines of all that are chosen of its items. */
  each?: boolean;
  href?: string;
}

export interface CallCardProps {
  kind: string;
  title: string;
  detail: string;
  /** Instrument-days lost for each day it is left. */
  cost: number;
  evidence: string;
  actions: readonly CallAction[];
  /** All it speaks for; none: it speaks for itself alone. */
  items: readonly Item[];
  onLines: Lines;
  busy?: boolean;
  /** To put it off or give it to somebody, where that can be done. */
  onAnswer?: () => void;
  /** What was said to it. */
  children?: ReactNode;
}

/** What is late or paces the works is red, what may go on green, what runs dry grey-blue. */
const MARK: Record<string, string> = {
  late: 'error.main',
  constraint: 'error.main',
  'hold-over': 'success.main',
  'dry-station': 'secondary.main',
};

/** A decision that wants the manager: what it is, the numbers that make it true, what stands behind it, what can be done right here. */
export function CallCard(props: CallCardProps) {
  const {
    kind,
    title,
    detail,
    cost,
    evidence,
    actions,
    items,
    onLines,
    busy = false,
    onAnswer,
    children,
  } = props;
  const [open, setOpen] = useState(false);
  const { chosen, setChosen } = useChosen(items);
  const { running, run, stop } = useRun(onLines);
  const lines = items.flatMap(({ subject, line }) =>
    line !== undefined && chosen.has(subject) ? [line] : [],
  );
  const decidable = items.filter(({ line }) => line !== undefined).length;
  return (
    <Box
      component="article"
      sx={{
        borderLeft: 3,
        borderColor: MARK[kind] ?? 'warning.main',
        padding: '1px 0 2px 13px',
        marginTop: '13px',
      }}
    >
      <Typography variant="h3">
        <Box
          component={Link}
          to={evidence}
          sx={{ textDecoration: 'none', color: 'inherit', '&:hover': { textDecoration: 'underline' } }}
        >
          {title}
        </Box>
      </Typography>
      <Typography color="text.secondary" sx={{ fontSize: 13, margin: '2px 0 5px' }}>
        {detail}
        {items.length > 0 && ` Each day it is left costs ${cost.toFixed(1)} instrument-days.`}
      </Typography>
      {children && <Typography sx={{ fontSize: 13, marginBottom: '5px' }}>{children}</Typography>}
      <Stack direction="row" useFlexGap sx={{ flexWrap: 'wrap', gap: '8px' }}>
        {actions.map((action, i) => {
          const variant = i === 0 ? 'contained' : 'outlined';
          if (action.href !== undefined)
            return (
              <Button key={action.label} variant={variant} component={Link} to={action.href}>
                {action.label}
              </Button>
            );
          const all = lines.length === decidable;
          return (
            <Button
              key={action.label}
              variant={variant}
              disabled={busy || running !== null || (action.each === true && lines.length === 0)}
              onClick={() => void run(action.each ? lines : [action.line ?? ''])}
            >
              {action.each && !all ? `Only the ${lines.length} chosen` : action.label}
            </Button>
          );
        })}
        {items.length > 0 && (
          <Button aria-expanded={open} onClick={() => setOpen(!open)}>
            {open ? 'Fold the list' : `See all ${items.length}`}
          </Button>
        )}
        {onAnswer && (
          <Button variant="text" aria-label={`Not now: ${title}`} onClick={onAnswer}>
            Not now…
          </Button>
        )}
      </Stack>
      {running && <Running {...running} onStop={stop} />}
      <Collapse in={open} unmountOnExit>
        <Suspense fallback={null}>
          <CallItems items={items} chosen={chosen} onChoose={setChosen} />
        </Suspense>
      </Collapse>
    </Box>
  );
}

/** What is chosen of the items: all until somebody chooses; what comes later is not chosen for them. */
function useChosen(items: readonly Item[]) {
  const [kept, setKept] = useState<ReadonlySet<string> | null>(null);
  const chosen = kept ?? new Set(items.map(({ subject }) => subject));
  return { chosen, setChosen: setKept };
}
