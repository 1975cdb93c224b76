import { Button } from '@mui/material';

/** Leaves a form that was opened on a page: what was typed into it is gone, and so is the form. */
export function Leave(props: { draft: { leave: () => void }; onLeft: () => void; words?: string }) {
  const { draft, onLeft, words = 'Leave it' } = props;
  return (
    <Button
      onClick={() => {
        draft.leave();
        onLeft();
      }}
    >
      {words}
    </Button>
  );
}
