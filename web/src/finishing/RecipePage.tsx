import { plannedFilm, validateRecipe, type Recipe, type RecipeStep } from '@ample-crane/core';
import { Box, Button, Link as MuiLink, ListItem, Stack, Typography } from '@mui/material';
import { useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { answered, server } from '../api/client.ts';
import { sayClock } from '../shared/time.ts';
import { usePerform } from '../shared/usePerform.ts';
import { Verdict } from '../devices/Verdict.tsx';
import { FileButton } from '../fields/FileButton.tsx';
import { isText, useKeptState } from '../fields/kept-state.ts';
import { NumberField } from '../fields/NumberField.tsx';
import { Ordered, OrderedItem } from '../fields/Ordered.tsx';
import { Words } from '../fields/Words.tsx';
import { Columns, EmptyState, Opening, Page, Panel, PlainList, Quiet, Refused, Row } from '../parts/index.ts';
import { FinishNav } from './FinishNav.tsx';
import { freshStep, inOrder, recipeFile } from './recipe-draft.ts';
import { StepFields } from './StepFields.tsx';
import { StepStrip } from './StepStrip.tsx';
import { useRecipes, type Recipes, type RecipeView } from './queries.ts';
import { useDrawnRecipe } from './useDrawnRecipe.ts';
import { useLengths, WARMER_C } from './useLengths.ts';
import './RecipePage.css';

/** As the format of recipes allows. */
const LONGEST_NAME = 120;
const LONGEST_NOTE = 600;
const MOST_CAUTIONS = 12;

const BLANK: Recipe = {
  id: '',
  name: '',
  title: '',
  revision: 0,
  school: '',
  targetUm: 80,
  minimumUm: 60,
  steps: [],
  cautions: [],
  colour: null,
};

/** One recipe: its steps, its length, its revisions, and drawing the next one. */
export default function RecipePage() {
  const { name = '' } = useParams();
  const { data, error } = useRecipes();
  if (!data) return <Opening error={error} />;
  const revisions = data.recipes.filter((one) => one.name === name);
  const [newest] = revisions;
  if (!newest && name !== 'new')
    return <EmptyState>There is no recipe '{name}'. Press 4 for finishing.</EmptyState>;
  return (
    <Desk key={newest?.name ?? 'new'} newest={newest?.recipe ?? BLANK} revisions={revisions} recipes={data} />
  );
}

const KINDS: { kind: RecipeStep['kind']; words: string }[] = [
  { kind: 'coat', words: 'coats' },
  { kind: 'sand', words: 'sanding' },
  { kind: 'treat', words: 'treatment' },
  { kind: 'cure', words: 'cure' },
  { kind: 'age', words: 'ageing' },
];

function Desk({ newest, revisions, recipes }: { newest: Recipe; revisions: RecipeView[]; recipes: Recipes }) {
  const { draft, setDraft, start, newer, changed, rebase } = useDrawnRecipe(newest);
  const from = start.revision;
  const [open, setOpen] = useState<string | null>(null);
  const [note, setNote] = useKeptState(`why recipe ${newest.name}`, '', isText);
  const { perform, busy, refused } = usePerform();
  const go = useNavigate();
  const set = (change: Partial<Recipe>): void => setDraft((before) => ({ ...before, ...change }));
  const problems = validateRecipe(draft);
  const good = problems.length === 0;
  const lengths = useLengths(good ? draft : undefined, recipes.season);
  const file = async (): Promise<void> => {
    const made = await perform(
      (by, key) =>
        answered(
          server.POST('/api/finish/recipes', {
            body: { key, by, recipe: recipeFile(draft), note: note.trim(), from },
          }),
        ),
      ({ id }) => `${id} is made. Racks opened from now on get it; those under way keep theirs.`,
    );
    if (!made) return;
    // What is new is begun anew the next time.
    rebase(from === 0 ? newest : made.recipe);
    setNote('');
    void go(`/finish/recipes/${made.name}`);
  };
  const read = async (picked: File | undefined): Promise<void> => {
    if (!picked) return;
    const text = await picked.text();
    await perform(async () => {
      let parsed: object;
      try {
        parsed = JSON.parse(text) as object;
      } catch {
        parsed = { unreadable: picked.name };
      }
      const recipe = (await answered(
        server.POST('/api/finish/recipes/read', { body: { file: parsed as never } }),
      )) as Recipe;
      setDraft({ ...draft, ...recipe, name: from === 0 ? recipe.name : draft.name });
    });
  };
  return (
    <Page
      title={
        <>
          {draft.title || 'A new recipe'} {from > 0 && <Quiet small>revision {from}</Quiet>}
        </>
      }
      tabs={<FinishNav />}
    >
      <Columns>
        <Stack>
          <Verdict tone={good ? 'good' : 'bad'} sentence={sentenceOf(draft, problems, lengths, recipes)}>
            {problems.length > 1 && (
              <PlainList>
                {problems.slice(1).map(({ step, problem }) => (
                  <ListItem disablePadding key={`${step ?? ''}${problem}`}>
                    {problem}
                  </ListItem>
                ))}
              </PlainList>
            )}
            {lengths?.season && (
              <StepStrip
                title="In this season"
                recipe={draft}
                length={lengths.season}
                longestDays={lengths.season.days}
              />
            )}
          </Verdict>
          <Panel label="Steps">
            <Typography variant="h2">Steps</Typography>
            <Ordered
              keys={draft.steps.map(({ key }) => key)}
              nameOf={(key) => draft.steps.find((step) => step.key === key)?.name ?? key}
              onOrder={(keys) => set({ steps: inOrder(draft.steps, keys) })}
            >
              <PlainList ordered className="steplist">
                {draft.steps.map((step, i) => (
                  <OrderedItem key={step.key} id={step.key}>
                    {({ ref, style, controls }) => (
                      <ListItem disablePadding ref={ref} style={style}>
                        <Quiet>{i + 1}</Quiet>
                        <Box>
                          <MuiLink
                            component="button"
                            type="button"
                            aria-expanded={open === step.key}
                            onClick={() => setOpen(open === step.key ? null : step.key)}
                          >
                            {step.name}
                          </MuiLink>{' '}
                          <Quiet>{stepWords(step)}</Quiet>
                          {open === step.key && (
                            <StepFields
                              step={step}
                              onChange={(next) =>
                                set({ steps: draft.steps.map((one, j) => (j === i ? next : one)) })
                              }
                            />
                          )}
                        </Box>
                        <Row component="span" style={{ gap: 4 }}>
                          {controls}
                          <Button
                            size="small"
                            aria-label={`Take ${step.name} out`}
                            onClick={() => set({ steps: draft.steps.filter((_, j) => j !== i) })}
                          >
                            Take out
                          </Button>
                        </Row>
                      </ListItem>
                    )}
                  </OrderedItem>
                ))}
              </PlainList>
            </Ordered>
            <Row style={{ marginTop: 8 }}>
              <Quiet>Add</Quiet>
              {KINDS.map(({ kind, words }) => (
                <Button
                  key={kind}
                  size="small"
                  onClick={() => {
                    const step = freshStep(draft.steps, kind);
                    set({ steps: [...draft.steps, step] });
                    setOpen(step.key);
                  }}
                >
                  {words}
                </Button>
              ))}
            </Row>
          </Panel>
        </Stack>
        <Stack>
          <Panel label="The recipe">
            <Typography variant="h2">The recipe</Typography>
            <Row key={draft.name || 'new'}>
              {from === 0 && (
                <Words
                  label="Short name, for files"
                  value={draft.name}
                  onChange={(name) => set({ name: name.toLowerCase().replace(/[^a-z0-9-]/g, '-') })}
                  width={190}
                />
              )}
              <Words
                label="Title"
                value={draft.title}
                onChange={(title) => set({ title })}
                most={LONGEST_NAME}
              />
            </Row>
            <Box style={{ margin: '8px 0' }}>
              <Words
                label="School: why it is done like this"
                value={draft.school}
                onChange={(school) => set({ school })}
                most={LONGEST_NOTE}
                lines
              />
            </Box>
            <Row>
              <NumberField
                label="Film wanted"
                unit="µm"
                value={draft.targetUm}
                onChange={(value) => set({ targetUm: value ?? 0 })}
              />
              <NumberField
                label="At least"
                unit="µm"
                value={draft.minimumUm}
                onChange={(value) => set({ minimumUm: value ?? 0 })}
              />
            </Row>
            <Box style={{ marginTop: 8 }}>
              <Words
                label="Cautions, one a line"
                value={draft.cautions.join('\n')}
                onChange={(text) => set({ cautions: text.split('\n').slice(0, MOST_CAUTIONS) })}
                most={MOST_CAUTIONS * LONGEST_NOTE}
                lines
              />
            </Box>
          </Panel>
          <Panel label="Make a revision">
            <Typography variant="h2">{from === 0 ? 'Make it' : 'Make a revision'}</Typography>
            <Words label="What changed" value={note} onChange={setNote} most={LONGEST_NOTE} />
            <Row style={{ marginTop: 8 }}>
              <Button
                variant="contained"
                disabled={
                  busy || !good || !changed || note.trim() === '' || draft.name === '' || draft.title === ''
                }
                onClick={() => void file()}
              >
                {from === 0 ? 'Make the recipe' : `Make revision ${from + 1}`}
              </Button>
              {/* It stays where it is when there is nothing to go back from: the next button must not slip under a finger. */}
              <Button disabled={!changed} onClick={() => setDraft(start)}>
                Back to what it was
              </Button>
              {from > 0 && (
                <Button
                  component="a"
                  href={`/api/finish/recipes/${start.id}/file`}
                  download={`${start.id}.json`}
                >
                  Save as a file
                </Button>
              )}
              <FileButton
                words="Open a file"
                accept="application/json,.json"
                onFile={(file) => void read(file)}
              />
            </Row>
            {newer && (
              <Typography className="attention" role="status" style={{ marginTop: 8 }}>
                Revision {newer.revision} was made meanwhile; what you draw is from revision {from}.{' '}
                <Button size="small" onClick={() => rebase(newer)}>
                  Take it, drop mine
                </Button>
                <Button size="small" onClick={() => rebase(newer, draft)}>
                  Put mine on top of it
                </Button>
              </Typography>
            )}
            <Refused words={refused} />
          </Panel>
          {revisions.length > 0 && <Revisions revisions={revisions} zone={recipes.zone} />}
        </Stack>
      </Columns>
    </Page>
  );
}

function sentenceOf(
  draft: Recipe,
  problems: ReturnType<typeof validateRecipe>,
  lengths: ReturnType<typeof useLengths>,
  recipes: Recipes,
): string {
  if (problems[0]) return `Not yet: ${problems[0].problem}.`;
  if (lengths?.problem) return `It cannot be worked in this season: ${lengths.problem}.`;
  if (!lengths?.season || !lengths.warmer) return 'Working out how long it takes…';
  const { buildUm } = plannedFilm(draft);
  return (
    `${lengths.season.days.toFixed(1)} days at ${recipes.season.temperatureC.toFixed(0)} °C, ` +
    `${lengths.warmer.days.toFixed(1)} if it were ${WARMER_C} °C warmer; leaves ${buildUm.toFixed(0)} µm, ${draft.minimumUm} µm at least.`
  );
}

function stepWords(step: RecipeStep): string {
  switch (step.kind) {
    case 'coat':
      return `${step.coats} × ${step.spec.wetUm} µm wet of ${step.spec.material}, ${step.spec.solidsPct} % solids; recoat ${step.spec.hours.recoat} h${step.spec.maxRecoatHours === null ? '' : ` to ${step.spec.maxRecoatHours} h`}${step.mix ? `, mixed ${step.mix.parts.map(({ parts }) => parts).join(' : ')}` : ''}`;
    case 'sand':
      return `${step.grits.join(' → ')}, takes ${step.removalUm} ± ${step.removalSdUm} µm`;
    case 'treat':
      return step.waitHours > 0 ? `dries ${step.waitHours} h` : `${step.touchMinutes} min`;
    case 'cure':
      return `until it may be ${step.until === 'recoat' ? 'recoated' : step.until === 'sand' ? 'sanded' : 'buffed'}`;
    case 'age':
      return `up to ${step.cycles} × ${step.coldHours} h cold, ${step.level}`;
  }
}

function Revisions({ revisions, zone }: { revisions: RecipeView[]; zone: string }) {
  return (
    <Panel label="Revisions">
      <Typography variant="h2">Revisions</Typography>
      {revisions.map((one) => (
        <Typography key={one.id} style={{ marginTop: 5 }}>
          <strong>r{one.revision}</strong> {one.note}{' '}
          <Quiet>
            {one.person}, {sayClock(one.madeMs, zone)}
          </Quiet>
          {one.batches.length > 0 && (
            <>
              <br />
              <Quiet>
                on it:{' '}
                {one.batches.map((code) => (
                  <Link key={code} to={`/finish/rack/${code}`} style={{ marginRight: 5 }}>
                    {code}
                  </Link>
                ))}
              </Quiet>
            </>
          )}
        </Typography>
      ))}
    </Panel>
  );
}
