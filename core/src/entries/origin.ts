import { refuse, type BatchState, type Refusal } from '../ledger/index.ts';
import type { Route } from '../route/index.ts';

/** JSON Schema of the operation that caused a fault, with its kind: 'B/colour'. */
export const ORIGIN = { type: 'string', pattern: '^[A-Z]/[a-z0-9][a-z0-9-]{0,59}$' } as const;

/** Why a fault cannot come of an operation: it is one of this very route, which has none of that name. Others are not known here. */
export function originUnknown(
  { code }: BatchState,
  route: Route,
  origin: string | undefined,
): Refusal | undefined {
  const [kind, key] = origin?.split('/') ?? [];
  if (kind !== route.kind || route.operations.some((operation) => operation.key === key)) return undefined;
  return refuse('unknown-operation', `the route of ${code} has no operation '${key ?? ''}'`, 'origin');
}
