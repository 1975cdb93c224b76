import { Button } from '@mui/material';
import { Link } from 'react-router';
import { Row } from './Row.tsx';

/** One page for each model: the one that is shown, and the others. */
export function ModelTabs(props: {
  models: readonly string[];
  shown: string | undefined;
  /** Address of a model's page. */
  to: (model: string) => string;
}) {
  const { models, shown, to } = props;
  return (
    <Row role="group" aria-label="Model">
      {models.map((model) => (
        <Button
          key={model}
          size="small"
          component={Link}
          to={to(model)}
          variant={model === shown ? 'contained' : 'outlined'}
        >
          {model}
        </Button>
      ))}
    </Row>
  );
}
