import { Button, Typography } from '@mui/material';
import { Link } from 'react-router';
import { answered, server } from '../api/client.ts';
import { filedWords, usePerform } from '../shared/usePerform.ts';
import { AskChoice, AskWords, Form, useDraft } from '../fields/index.ts';
import { Panel } from '../parts/index.ts';
import type { RackPage } from './queries.ts';

/** Which recipe it works by; another one, or a newer revision, wants a reason that stays. */
export function RecipeOfRack({ page }: { page: RackPage }) {
  const { perform, busy, refusal } = usePerform();
  const { rack, recipes, state } = page;
  const draft = useDraft(`recipe of ${rack.batch}`, { recipe: '', reason: '' });
  const others = recipes.filter(({ id }) => id !== rack.recipe);
  const name = (id: string): string => id.replace(/-\d+$/, '');
  const newer = others.find(({ id }) => rack.recipe !== null && name(id) === name(rack.recipe));
  const move = ({ recipe, reason }: { recipe: string; reason: string }): Promise<unknown> =>
    perform(
      (by, key) =>
        answered(
          server.POST('/api/finish/racks/{code}/recipe', {
            params: { path: { code: rack.batch } },
            body: { key, by, recipe: name(recipe), reason: reason.trim() },
          }),
        ),
      filedWords,
    );
  return (
    <Panel label="Recipe">
      <Typography variant="h2">Recipe</Typography>
      <Typography>
        {rack.recipe === null ? (
          'It has no recipe: coats are counted by its route, their film is not known.'
        ) : (
          <>
            <Link to={`/finish/recipes/${name(rack.recipe)}`}>{rack.recipeTitle}</Link>, revision{' '}
            {rack.recipe.split('-').at(-1)}: {rack.targetUm} µm wanted, {rack.minimumUm} µm at least.
          </>
        )}
        {newer &&
          ` A newer revision, ${newer.id.split('-').at(-1) ?? ''}, is there; this rack keeps its own until it is moved.`}
      </Typography>
      {(state.moves ?? []).map((one) => (
        <Typography color="textSecondary" key={one.atMs}>
          {one.from} → {one.to}: {one.reason}
        </Typography>
      ))}
      {others.length > 0 && (
        <Form draft={draft} refusal={refusal} lay="row" style={{ marginTop: 6 }} onFile={move}>
          <AskChoice
            name="recipe"
            label="Move to"
            needed="which one"
            options={others.map(({ id, title }) => ({
              value: id,
              words: `${title} r${id.split('-').at(-1)}`,
            }))}
            width={170}
          />
          <AskWords name="reason" label="Reason" needed="it stays with the rack" width={150} />
          <Button type="submit" disabled={busy}>
            Move it
          </Button>
        </Form>
      )}
    </Panel>
  );
}
