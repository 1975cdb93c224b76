import { closedWords, forks, LARGEST_BATCH, nearestWorkingDays, type Route } from '@ample-crane/core';
import { Box, Button, Stack, Typography } from '@mui/material';
import { useState } from 'react';
import { useWatch } from 'react-hook-form';
import { Link } from 'react-router';
import { openBatch } from '../api/filing.ts';
import { useFloor, useSetup, type Floor, type Setup } from '../api/queries.ts';
import { onlyKnown, WaysChoice } from '../batch/RoutePanel.tsx';
import { Verdict } from '../devices/Verdict.tsx';
import { AskChoice, AskDay, AskFrom, AskNumber, AskSeveral, Form, useDraft } from '../fields/index.ts';
import { useRecipes } from '../finishing/queries.ts';
import { Columns, Opening, Page, Panel, Quiet } from '../parts/index.ts';
import { useModelRoutes } from '../routes/queries.ts';
import { dueInstant, isoDate } from '../shared/time.ts';
import { numberOf, typedNumber } from '../shared/typed.ts';
import { usePerform } from '../shared/usePerform.ts';
import { WoodProposal } from '../wood/WoodProposal.tsx';
import { WhatItBrings } from './WhatItBrings.tsx';
import { WoodInStock } from './WoodInStock.tsx';

const DAY_MS = 24 * 3_600_000;
const NO_ROUTES: readonly Route[] = [];
/** Offered as a due date: the lead the works promises today. A real promise comes with the forecast. */
const USUAL_LEAD_DAYS = 52;
/** Parts that are usually opened together. */
const USUAL_KINDS = ['B', 'N'];

/** Ways chosen, by kind letter and the key of the fork. */
type WaysByKind = Record<string, Record<string, string>>;

export default function OpenPage() {
  const { data: floor } = useFloor();
  const { data: setup } = useSetup();
  if (!floor || !setup) return <Opening />;
  return <OpenRacks floor={floor} setup={setup} />;
}

/** Racks of the parts of one model, opened together on the newest revisions of their routes. */
function OpenRacks({ floor, setup }: { floor: Floor; setup: Setup }) {
  const { perform, busy, refusal } = usePerform();
  const [opened, setOpened] = useState<string[]>([]);
  const [ways, setWays] = useState<WaysByKind>({});
  const first = setup.models[0];
  const lead = isoDate(floor.nowMs + USUAL_LEAD_DAYS * DAY_MS, floor.zone);
  const begin = {
    model: first?.model ?? '',
    kinds: USUAL_KINDS.filter((kind) => first?.kinds.includes(kind)),
    quantity: '12',
    dueAt: nearestWorkingDays(setup.calendar, lead).after ?? '',
    // By kind letter, the name of its finish; none: the usual one.
    recipes: {} as Record<string, string>,
  };
  const draft = useDraft('racks', begin, { keep: ['model', 'kinds', 'quantity', 'dueAt', 'recipes'] });
  const asked = useWatch({ control: draft.form.control });
  const model = setup.models.find((one) => one.model === asked.model);
  const { data: known } = useModelRoutes(asked.model ?? '');
  const routes = known ?? NO_ROUTES;
  const { data: book } = useRecipes();
  const kinds = (model?.kinds ?? []).filter((kind) => asked.kinds?.includes(kind));
  const pieces = typedNumber(asked.quantity ?? '') ?? 0;
  const routeOf = (kind: string): Route | undefined => routes.find((one) => one.kind === kind);
  const kindName = (letter: string): string =>
    setup.kinds.find((one) => one.letter === letter)?.name ?? letter;
  const titleOf = (name: string): string =>
    book?.recipes.find((one) => one.name === name && one.newest)?.recipe.title ?? name;
  const finishesOf = (kind: string): readonly string[] => model?.finish[kind]?.recipes ?? [];

  const open = async ({
    kinds: wanted,
    quantity,
    dueAt,
    recipes,
    model: name,
  }: typeof begin): Promise<boolean> => {
    // One filing each: what was opened before another is refused stays, and is no longer asked for.
    for (const kind of wanted.filter((one) => model?.kinds.includes(one))) {
      const route = routeOf(kind);
      const recipe = recipes[kind] ?? '';
      const batch = {
        ...{ model: name, kind, quantity: numberOf(quantity), dueAt: dueInstant(dueAt, floor.zone) },
        ...(route ? { ways: onlyKnown(route, ways[kind] ?? {}) } : {}),
        ...(finishesOf(kind).includes(recipe) ? { recipe } : {}),
      };
      const done = await perform(
        (by, key) => openBatch(by, key, batch),
        ({ sentence }) => `Opened. ${sentence}`,
      );
      if (!done) {
        draft.form.setValue('kinds', wanted.slice(wanted.indexOf(kind)));
        return false;
      }
      setOpened((codes) => [...codes, done.entries[0]?.batch ?? '']);
    }
    return true;
  };

  return (
    <Page
      title="Open racks"
      tabs={<Quiet>they go on the board at once, each at the first operation of its route</Quiet>}
    >
      <Columns even>
        <Form draft={draft} refusal={refusal} panel lay="stack" label="Open racks" onFile={open}>
          <AskFrom
            name="model"
            label="Model"
            options={setup.models.map(({ model: name, description }) => ({
              value: name,
              words: `${name}: ${description}`,
            }))}
            needed="which model"
          />
          <AskSeveral
            name="kinds"
            label="Parts, a rack of each"
            options={(model?.kinds ?? []).map((letter) => ({ value: letter, words: kindName(letter) }))}
            needed="at least one part of it"
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
            width={200}
          />
          {kinds.map((kind) => {
            const [usual, ...others] = finishesOf(kind);
            return (
              usual !== undefined && (
                <AskChoice
                  key={`${asked.model} ${kind}`}
                  name={`recipes.${kind}`}
                  label={kinds.length > 1 ? `Finish of the ${kindName(kind)}` : 'Finish'}
                  options={others.map((name) => ({ value: name, words: titleOf(name) }))}
                  none={`${titleOf(usual)}, the usual one`}
                />
              )
            );
          })}
          <Box>
            <Button type="submit" variant="contained" disabled={busy}>
              Open {kinds.map(kindName).join(' and ')}
            </Button>
          </Box>
        </Form>
        <Stack style={{ minWidth: 0 }}>
          {opened.map((code) => (
            <Box key={code}>
              <Verdict tone="good" sentence={`${code} is on the board.`}>
                <Link to={`/batch/${code}`}>Go to {code}</Link>
              </Verdict>
              <WoodProposal batch={code} />
            </Box>
          ))}
          {known && (
            <WhatItBrings
              floor={floor}
              routes={known}
              parts={kinds.map((kind) => ({ kind, pieces, ways: ways[kind] ?? {} }))}
            />
          )}
          <WoodInStock
            parts={kinds.map((kind) => ({
              ...{ kind, name: kindName(kind), pieces },
              species: model?.wood?.parts[kind]?.species ?? null,
            }))}
          />
        </Stack>
      </Columns>
      <Box style={{ padding: '0 16px 16px' }}>
        <Stack>
          {kinds.map((kind) => (
            <WaysPanel
              key={kind}
              name={kindName(kind)}
              route={routeOf(kind)}
              nowMs={floor.nowMs}
              pieces={pieces || 1}
              ways={ways[kind] ?? {}}
              onChange={(chosen) => setWays({ ...ways, [kind]: chosen })}
            />
          ))}
        </Stack>
      </Box>
    </Page>
  );
}

/** The ways the newest route of a part leaves, to be chosen before its rack is opened. */
function WaysPanel(props: {
  name: string;
  route: Route | undefined;
  nowMs: number;
  pieces: number;
  ways: Record<string, string>;
  onChange: (ways: Record<string, string>) => void;
}) {
  const { name, route, ...choice } = props;
  if (!route || forks(route).length === 0) return null;
  return (
    <Panel label={`Ways of the ${name}`}>
      <Typography variant="h2">Which way the {name} goes</Typography>
      <WaysChoice route={route} {...choice} />
    </Panel>
  );
}
