import { Button, Typography } from '@mui/material';
import { useState } from 'react';
import { Link } from 'react-router';
import { answered, server } from '../api/client.ts';
import { filedWords, usePerform } from '../shared/usePerform.ts';
import { unlessTypedSince } from '../shared/unless-typed-since.ts';
import { Refused } from '../devices/Refused.tsx';
import { Form } from '../fields/Form.tsx';
import { Choice } from '../fields/Choice.tsx';
import { Words } from '../fields/Words.tsx';
import { Panel } from '../parts/index.ts';
import type { RackPage } from './queries.ts';

/** Which recipe it works by; another one, or a newer revision, wants a reason that stays. */
export function RecipeOfRack({ page }: { page: RackPage }) {
  const { perform, busy, refused } = usePerform();
  const [to, setTo] = useState('');
  const [reason, setReason] = useState('');
  const { rack, recipes, state } = page;
  const others = recipes.filter(({ id }) => id !== rack.recipe);
  const name = (id: string): string => id.replace(/-\d+$/, '');
  const newer = others.find(({ id }) => rack.recipe !== null && name(id) === name(rack.recipe));
  const move = async (): Promise<void> => {
    const moved = await perform(
      (by, key) =>
        answered(
          server.POST('/api/finish/racks/{code}/recipe', {
            params: { path: { code: rack.batch } },
            body: { key, by, recipe: name(to), reason: reason.trim() },
          }),
        ),
      filedWords,
    );
    if (moved) {
      setTo(unlessTypedSince(to));
      setReason(unlessTypedSince(reason));
    }
  };
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
        <Form lay="row" style={{ marginTop: 6 }} onFile={move}>
          <Choice
            label="Move to"
            value={to}
            onChange={setTo}
            options={others.map(({ id, title }) => ({
              value: id,
              words: `${title} r${id.split('-').at(-1)}`,
            }))}
            width={170}
          />
          <Words label="Reason" value={reason} onChange={setReason} width={150} />
          <Button type="submit" disabled={busy || to === '' || reason.trim() === ''}>
            Move it
          </Button>
        </Form>
      )}
      <Refused words={refused} />
    </Panel>
  );
}
