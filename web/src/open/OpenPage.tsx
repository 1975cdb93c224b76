import { closedWords, forks, LARGEST_BATCH, nearestWorkingDays, type Route } from '@ample-crane/core';
import { Box, Button, MenuItem, Stack, TextField, Typography } from '@mui/material';
import { Fragment, useState } from 'react';
import { Controller, useForm } from 'react-hook-form';
import { Link } from 'react-router';
import { openBatch } from '../api/filing.ts';
import { useFloor, useSetup, type Floor, type Setup } from '../api/queries.ts';
import { dueInstant, isoDate } from '../shared/time.ts';
import { usePerform } from '../shared/usePerform.ts';
import { onlyKnown, WaysChoice } from '../batch/RoutePanel.tsx';
import { Verdict } from '../devices/Verdict.tsx';
import { WoodProposal } from '../wood/WoodProposal.tsx';
import { useRecipes } from '../finishing/queries.ts';
import { useModelRoutes } from '../routes/queries.ts';
import { Columns, Opening, Page, Panel, Quiet } from '../parts/index.ts';
import { DayField } from '../fields/DayField.tsx';
import { Form } from '../fields/Form.tsx';

const DAY_MS = 24 * 3_600_000;
/** Offered as a due date: the lead the works promises today. A real promise comes with the forecast. */
const USUAL_LEAD_DAYS = 52;

interface Asked {
  model: string;
  kind: string;
  quantity: string;
  due: string;
  /** Name of the finish; empty: the usual one. */
  recipe: string;
}

export default function OpenPage() {
  const { data: floor } = useFloor();
  const { data: setup } = useSetup();
  if (!floor || !setup) return <Opening />;
  return <OpenForm floor={floor} setup={setup} />;
}

/** A new rack on the newest revision of its route. */
function OpenForm({ floor, setup }: { floor: Floor; setup: Setup }) {
  const { perform, busy, refused } = usePerform();
  const [opened, setOpened] = useState<string[]>([]);
  const [ways, setWays] = useState<Record<string, string>>({});
  const first = setup.models[0];
  const { control, handleSubmit, watch } = useForm<Asked>({
    defaultValues: {
      model: first?.model ?? '',
      kind: first?.kinds[0] ?? '',
      quantity: '12',
      due:
        nearestWorkingDays(setup.calendar, isoDate(floor.nowMs + USUAL_LEAD_DAYS * DAY_MS, floor.zone))
          .after ?? '',
      recipe: '',
    },
  });
  const model = setup.models.find((candidate) => candidate.model === watch('model'));
  const { data: routes = [] } = useModelRoutes(watch('model'));
  const route = routes.find((candidate) => candidate.kind === watch('kind'));
  const { data: book } = useRecipes();
  const finishes = model?.finish[watch('kind')]?.recipes ?? [];
  const titleOf = (name: string): string =>
    book?.recipes.find((one) => one.name === name && one.newest)?.recipe.title ?? name;
  const kindName = (letter: string): string =>
    setup.kinds.find((kind) => kind.letter === letter)?.name ?? letter;

  const submit = handleSubmit(async ({ kind, quantity, due, recipe, ...rest }) => {
    const asked = {
      ...rest,
      kind,
      quantity: Number(quantity),
      dueAt: dueInstant(due, floor.zone),
      ...(route ? { ways: onlyKnown(route, ways) } : {}),
      ...(finishes.includes(recipe) ? { recipe } : {}),
    };
    const done = await perform(
      (by, key) => openBatch(by, key, asked),
      ({ sentence }) => `Opened. ${sentence}`,
    );
    if (done) setOpened((codes) => [done.entries[0]?.batch ?? '', ...codes]);
  });

  return (
    <Page
      title="Open a batch"
      tabs={<Quiet>it goes on the board at once, at the first operation of its route</Quiet>}
    >
      <Columns>
        <Form
          panel
          lay="stack"
          onFile={() => submit()}

          noValidate
          style={{ maxWidth: 560 }}
        >
          <Controller
            name="model"
            control={control}
            render={({ field }) => (
              <TextField select label="Model" {...field}>
                {setup.models.map((choice) => (
                  <MenuItem key={choice.model} value={choice.model}>
                    {choice.model}: {choice.description}
                  </MenuItem>
                ))}
              </TextField>
            )}
          />
          <Controller
            name="kind"
            control={control}
            rules={{
              validate: (kind) =>
                (model?.kinds.includes(kind) ?? false) || 'this model has no route for that kind',
            }}
            render={({ field, fieldState }) => (
              <TextField
                select
                label="Kind"
                {...field}
                error={fieldState.invalid}
                helperText={fieldState.error?.message}
              >
                {(model?.kinds ?? []).map((letter) => (
                  <MenuItem key={letter} value={letter}>
                    {letter}: {kindName(letter)}
                  </MenuItem>
                ))}
              </TextField>
            )}
          />
          <Controller
            name="quantity"
            control={control}
            rules={{
              validate: (quantity) =>
                (/^\d+$/.test(quantity) && Number(quantity) >= 1 && Number(quantity) <= LARGEST_BATCH) ||
                `a batch holds 1 to ${LARGEST_BATCH} pieces`,
            }}
            render={({ field, fieldState }) => (
              <TextField
                label="Pieces"
                {...field}
                error={fieldState.invalid}
                helperText={fieldState.error?.message}
                slotProps={{ htmlInput: { inputMode: 'numeric' } }}
              />
            )}
          />
          <Controller
            name="due"
            control={control}
            rules={{
              validate: (due) =>
                (/^\d{4}-\d{2}-\d{2}$/.test(due) && Date.parse(dueInstant(due, floor.zone)) > floor.nowMs
                  ? closedWords(setup.calendar, due)
                  : 'a day after today') ?? true,
            }}
            render={({ field, fieldState }) => (
              <DayField
                label="Due"
                value={field.value}
                onChange={field.onChange}
                zone={floor.zone}
                problem={fieldState.error?.message}
              />
            )}
          />
          {finishes.length > 0 && (
            <Controller
              name="recipe"
              control={control}
              render={({ field }) => (
                <TextField
                  select
                  label="Finish"
                  {...field}
                  value={finishes.includes(field.value) ? field.value : finishes[0]}
                >
                  {finishes.map((name, i) => (
                    <MenuItem key={name} value={name}>
                      {titleOf(name)}
                      {i === 0 ? ', the usual one' : ''}
                    </MenuItem>
                  ))}
                </TextField>
              )}
            />
          )}
          {refused && (
            <Typography role="alert" style={{ color: 'var(--oxblood)' }}>
              {refused}
            </Typography>
          )}
          <Box>
            <Button type="submit" variant="contained" disabled={busy}>
              Open
            </Button>
          </Box>
        </Form>
        <Stack style={{ minWidth: 0 }}>
          {opened.length === 0 && (
            <Panel>
              <Typography variant="h2">Before you open one</Typography>
              <Typography>{constraintWords(floor)}</Typography>
            </Panel>
          )}
          {opened.map((code) => (
            <Fragment key={code}>
              <Verdict tone="good" sentence={`${code} is on the board.`}>
                <Link to={`/batch/${code}`}>Go to {code}</Link>
              </Verdict>
              <WoodProposal batch={code} />
            </Fragment>
          ))}
          <WaysPanel
            route={route}
            nowMs={floor.nowMs}
            quantity={watch('quantity')}
            ways={ways}
            onChange={setWays}
          />
        </Stack>
      </Columns>
    </Page>
  );
}

/** The ways the newest route leaves, to be chosen before the rack is opened. */
function WaysPanel({
  route,
  nowMs,
  quantity,
  ways,
  onChange,
}: {
  route: Route | undefined;
  nowMs: number;
  quantity: string;
  ways: Record<string, string>;
  onChange: (ways: Record<string, string>) => void;
}) {
  if (!route || forks(route).length === 0) return null;
  return (
    <Panel label="Ways" style={{ overflowX: 'auto' }}>
      <Typography variant="h2">Which way</Typography>
      <WaysChoice
        route={route}
        nowMs={nowMs}
        pieces={Number(quantity) || 1}
        ways={ways}
        onChange={onChange}
      />
    </Panel>
  );
}

function constraintWords(floor: Floor): string {
  const station = floor.stations.find((candidate) => candidate.code === floor.constraint?.station);
  if (!station) return 'No station has half a day of work in front of it: there is room for more.';
  return `${station.name} paces the works: ${station.hoursWaiting.toFixed(0)} h of work already wait for its ${station.hoursADay.toFixed(0)} h a day. What is opened now only helps when it reaches ${station.name} before that runs out.`;
}
