import { closedWords, forks, LARGEST_BATCH, nearestWorkingDays, type Route } from '@ample-crane/core';
import { Box, Button, Stack, Typography } from '@mui/material';
import { Fragment, useState } from 'react';
import { useWatch } from 'react-hook-form';
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
import { AskChoice, AskDay, AskFrom, AskNumber, Form, useDraft } from '../fields/index.ts';
import { numberOf } from '../shared/typed.ts';

const DAY_MS = 24 * 3_600_000;
/** Offered as a due date: the lead the works promises today. A real promise comes with the forecast. */
const USUAL_LEAD_DAYS = 52;

export default function OpenPage() {
  const { data: floor } = useFloor();
  const { data: setup } = useSetup();
  if (!floor || !setup) return <Opening />;
  return <OpenForm floor={floor} setup={setup} />;
}

/** A new rack on the newest revision of its route. */
function OpenForm({ floor, setup }: { floor: Floor; setup: Setup }) {
  const { perform, busy, refusal } = usePerform();
  const [opened, setOpened] = useState<string[]>([]);
  const [ways, setWays] = useState<Record<string, string>>({});
  const first = setup.models[0];
  const begin = {
    model: first?.model ?? '',
    kind: first?.kinds[0] ?? '',
    quantity: '12',
    dueAt:
      nearestWorkingDays(setup.calendar, isoDate(floor.nowMs + USUAL_LEAD_DAYS * DAY_MS, floor.zone)).after ??
      '',
    // The name of the finish; none: the usual one.
    recipe: '',
  };
  const draft = useDraft('batch', begin, { keep: ['model', 'kind', 'quantity', 'dueAt', 'recipe'] });
  const { control } = draft.form;
  const asked = useWatch({ control });
  const model = setup.models.find((candidate) => candidate.model === asked.model);
  const { data: routes = [] } = useModelRoutes(asked.model ?? '');
  const route = routes.find((candidate) => candidate.kind === asked.kind);
  const { data: book } = useRecipes();
  const finishes = model?.finish[asked.kind ?? '']?.recipes ?? [];
  const titleOf = (name: string): string =>
    book?.recipes.find((one) => one.name === name && one.newest)?.recipe.title ?? name;
  const kindName = (letter: string): string =>
    setup.kinds.find((kind) => kind.letter === letter)?.name ?? letter;

  const open = async ({ quantity, dueAt, recipe, ...rest }: typeof begin): Promise<boolean> => {
    const batch = {
      ...rest,
      quantity: numberOf(quantity),
      dueAt: dueInstant(dueAt, floor.zone),
      ...(route ? { ways: onlyKnown(route, ways) } : {}),
      ...(finishes.includes(recipe) ? { recipe } : {}),
    };
    const done = await perform(
      (by, key) => openBatch(by, key, batch),
      ({ sentence }) => `Opened. ${sentence}`,
    );
    if (done) setOpened((codes) => [done.entries[0]?.batch ?? '', ...codes]);
    return done !== null;
  };
  const kinds = model?.kinds ?? [];

  return (
    <Page
      title="Open a batch"
      tabs={<Quiet>it goes on the board at once, at the first operation of its route</Quiet>}
    >
      <Columns>
        <Form draft={draft} refusal={refusal} panel lay="stack" style={{ maxWidth: 560 }} onFile={open}>
          <AskFrom
            name="model"
            label="Model"
            options={setup.models.map(({ model: name, description }) => ({
              value: name,
              words: `${name}: ${description}`,
            }))}
            needed="which model"
          />
          <AskChoice
            name="kind"
            label="Kind"
            options={kinds.map((letter) => ({ value: letter, words: `${letter}: ${kindName(letter)}` }))}
            gone="this model has no route for that kind"
            needed="which part of it"
          />
          <AskNumber name="quantity" label="Pieces" least={1} most={LARGEST_BATCH} whole width={160} />
          <AskDay
            name="dueAt"
            label="Due"
            zone={floor.zone}
            needed="a day after today"
            wrong={(day) =>
              Date.parse(dueInstant(day, floor.zone)) > floor.nowMs
                ? (closedWords(setup.calendar, day) ?? undefined)
                : 'a day after today'
            }
          />
          {finishes[0] !== undefined && (
            <AskChoice
              name="recipe"
              label="Finish"
              options={finishes.slice(1).map((name) => ({ value: name, words: titleOf(name) }))}
              none={`${titleOf(finishes[0])}, the usual one`}
            />
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
            quantity={asked.quantity ?? ''}
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
