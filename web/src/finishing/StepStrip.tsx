import type { Recipe, RecipeLength } from '@ample-crane/core';
import { Box } from '@mui/material';
import { Quiet } from '../parts/index.ts';
import './StepStrip.css';

const DAY_MS = 24 * 3_600_000;

/** A recipe's steps one after the other, as long as they take: work dark, waiting hatched; both on the same scale. */
export function StepStrip({
  title,
  recipe,
  length,
  longestDays,
}: {
  title: string;
  recipe: Pick<Recipe, 'steps'>;
  length: RecipeLength;
  longestDays: number;
}) {
  return (
    <Box style={{ marginTop: 6 }}>
      <Quiet block style={{ fontSize: 13 }}>
        {title}, {length.days.toFixed(1)} days
      </Quiet>
      <Box
        className="daystrip"
        role="img"
        aria-label={`${title}: ${length.days.toFixed(1)} days, ${length.steps.length} steps`}
      >
        {length.steps.map(({ key, name, startMs, endMs }) => {
          const days = (endMs - startMs) / DAY_MS;
          const kind = recipe.steps.find((step) => step.key === key)?.kind;
          const rests = kind === 'cure' || kind === 'age' || (kind === 'treat' && days > 0.5);
          return (
            <span
              key={key}
              className={rests ? 'rest' : 'work'}
              title={`${name}: ${days < 1 ? `${(days * 24).toFixed(1)} h` : `${days.toFixed(1)} days`}`}
              style={{ width: `${(100 * days) / longestDays}%` }}
            />
          );
        })}
      </Box>
    </Box>
  );
}
