import { Link, Typography } from '@mui/material';
import { Link as RouterLink } from 'react-router';
import { useFloor, useSetup } from '../api/queries.ts';
import { sayClock } from '../shared/time.ts';
import { useChanges } from './queries.ts';
import { beforeWords, type Change } from './words.ts';

/** Under a setting: who changed it last, when, and how it stood before. Nothing where nobody did. */
export function LastChange({ setting, name = '' }: { setting: Change['setting']; name?: string }) {
  const { data: changes } = useChanges();
  const { data: setup } = useSetup();
  const { data: floor } = useFloor();
  const last = changes?.find((change) => change.setting === setting && change.name === name);
  if (!last || !floor) return null;
  const before = beforeWords(last);
  return (
    <Typography variant="body2" color="text.secondary" sx={{ mt: 1 }}>
      Changed {sayClock(last.atMs, floor.zone)} by{' '}
      {setup?.people.find(({ code }) => code === last.by)?.name ?? last.by}
      {before !== null && `; before: ${before}`}.{' '}
      <Link component={RouterLink} to="/changes">
        All changes
      </Link>
    </Typography>
  );
}
