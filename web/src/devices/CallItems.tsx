import { Checkbox, List, ListItem, ListItemText } from '@mui/material';
import { Link } from 'react-router';

/** One of those a call speaks for. */
export interface Item {
  subject: string;
  title: string;
  detail: string;
  line?: string;
  href: string;
}

/** All that stands behind a call, most costly first; what can be decided here can be ticked off. */
export default function CallItems({
  items,
  chosen,
  onChoose,
}: {
  items: readonly Item[];
  /** Subjects that are ticked. */
  chosen: ReadonlySet<string>;
  onChoose: (chosen: ReadonlySet<string>) => void;
}) {
  const choose = (subject: string): void => {
    const next = new Set(chosen);
    if (!next.delete(subject)) next.add(subject);
    onChoose(next);
  };
  return (
    <List dense disablePadding sx={{ maxHeight: 300, overflow: 'auto', marginTop: '6px' }} tabIndex={0}>
      {items.map(({ subject, title, detail, line, href }) => (
        <ListItem key={subject + title} disableGutters sx={{ alignItems: 'flex-start', paddingBlock: '1px' }}>
          {line !== undefined && (
            <Checkbox
              size="small"
              checked={chosen.has(subject)}
              onChange={() => choose(subject)}
              slotProps={{ input: { 'aria-label': title } }}
              sx={{ padding: '1px 6px 0 0' }}
            />
          )}
          <ListItemText
            primary={<Link to={href}>{title}</Link>}
            secondary={detail}
            slotProps={{ primary: { sx: { fontSize: 13 } }, secondary: { sx: { fontSize: 12 } } }}
            sx={{ margin: 0 }}
          />
        </ListItem>
      ))}
    </List>
  );
}
