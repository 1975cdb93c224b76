import { STAGES, type RackQuestion } from '@ample-crane/core';
import { Checkbox, FormControlLabel } from '@mui/material';
import { usePeople, useRackList } from '../api/queries.ts';
import { asOptions, Choice } from './Choice.tsx';
import { STAGE_NAMES } from '../shared/stages.ts';
import type { InAddress } from '../shared/useInAddress.ts';

/** Names in the address under which racks are asked for. */
export const RACK_FILTERS = ['stage', 'model', 'person', 'order', 'late'] as const;

/** What is asked of racks in the address, besides their stage. */
export const rackQuestion = ({ asked }: InAddress): RackQuestion => ({
  ...(asked('model') && { model: asked('model') }),
  ...(asked('person') && { person: asked('person') }),
  ...(asked('order') && { order: asked('order') }),
  ...(asked('late') && { late: true }),
});

/** Fields to ask for open racks: by stage, by model, by whose hands they are in, by order, late ones only. */
export function RackFilters({ address }: { address: InAddress }) {
  const { data: lines = [] } = useRackList();
  const { nameOf } = usePeople();
  const { asked, ask } = address;
  // What is asked may be of none just now: it can be seen, and asked no more.
  const there = (values: string[], name: string): string[] =>
    [...new Set([...values, asked(name)])].filter((value) => value !== '').toSorted();
  const models = there(
    lines.map(({ model }) => model),
    'model',
  );
  const people = there(
    lines.flatMap((line) => line.people),
    'person',
  );
  const orders = there(
    lines.flatMap((line) => line.orders.map(({ order }) => order)),
    'order',
  ).toSorted((a, b) => a.localeCompare(b, 'en', { numeric: true }));
  return (
    <>
      <Choice
        label="Stage"
        value={asked('stage')}
        onChange={(stage) => ask('stage', stage)}
        options={STAGES.map((stage) => ({ value: stage, words: STAGE_NAMES[stage] }))}
        none="all stages"
        width={150}
      />
      <Choice
        label="Model"
        value={asked('model')}
        onChange={(model) => ask('model', model)}
        options={asOptions(models)}
        none="all models"
        width={150}
      />
      <Choice
        label="In the hands of"
        value={asked('person')}
        onChange={(person) => ask('person', person)}
        options={people.map((code) => ({ value: code, words: nameOf(code) }))}
        none="anybody"
        width={170}
      />
      <Choice
        label="Built for"
        value={asked('order')}
        onChange={(order) => ask('order', order)}
        options={asOptions(orders)}
        none="any order, or stock"
        width={170}
      />
      <FormControlLabel
        control={
          <Checkbox checked={asked('late') !== ''} onChange={(_, on) => ask('late', on ? 'yes' : '')} />
        }
        label="late ones only"
      />
    </>
  );
}
