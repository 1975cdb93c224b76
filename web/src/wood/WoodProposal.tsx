import { Typography } from '@mui/material';
import { Link } from 'react-router';
import { Verdict } from '../devices/Verdict.tsx';
import { useChoice } from './queries.ts';
import { TakeThem } from './TakeThem.tsx';
import { choiceWords, chosenWords } from './words.ts';

/** The wood proposed for a rack that was just opened, to be taken with one touch; nothing where its model says nothing of wood. */
export function WoodProposal({ batch }: { batch: string }) {
  const { data: choice } = useChoice(batch);
  if (!choice) return null;
  const missing = choice.chosen.missing.length > 0;
  return (
    <Verdict tone={choice.wanting === 0 ? 'good' : missing ? 'wait' : 'hold'} sentence={choiceWords(choice)}>
      {choice.chosen.chosen.length > 0 && <Typography>{chosenWords(choice)}.</Typography>}
      <TakeThem choice={choice} />
      <Typography color="textSecondary">
        <Link to={`/wood/choose/${batch}`}>See each of them, and the rest of the stock</Link>
      </Typography>
    </Verdict>
  );
}
