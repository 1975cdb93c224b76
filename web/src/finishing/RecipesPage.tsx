import { Box, Table, TableBody, TableCell, TableHead, TableRow, Typography } from '@mui/material';
import { Link, useSearchParams } from 'react-router';
import { Verdict } from '../devices/Verdict.tsx';
import { Choice } from '../fields/Choice.tsx';
import { Columns, Opening, Page, Panel, Quiet, Row, Sideways } from '../parts/index.ts';
import { FinishNav } from './FinishNav.tsx';
import { StepStrip } from './StepStrip.tsx';
import { useRecipes, type Recipes, type RecipeView } from './queries.ts';
import { useLengths, WARMER_C, type Lengths } from './useLengths.ts';
import './RecipesPage.css';

/** The recipes with their whole length in this season's air, and any two of them side by side. */
export default function RecipesPage() {
  const { data, error } = useRecipes();
  const [asked, setAsked] = useSearchParams();
  if (!data) return <Opening error={error} />;
  const newest = data.recipes.filter((one) => one.newest);
  const pick = (name: string, fallback: number): RecipeView | undefined =>
    newest.find((one) => one.name === asked.get(name)) ?? newest[fallback];
  const left = pick(
    'a',
    newest.findIndex(({ name }) => name === 'thin-lacquer-gloss'),
  );
  const right = pick(
    'b',
    newest.findIndex(({ name }) => name === 'catalysed-satin'),
  );
  const choose = (side: 'a' | 'b', name: string): void =>
    setAsked((before) => ({ ...Object.fromEntries(before), [side]: name }), { replace: true });
  return (
    <Page
      title="Recipes"
      tabs={
        <>
          <FinishNav />
          <Quiet>
            in {data.room ?? 'this'}’s air of the last two weeks: {data.season.temperatureC.toFixed(1)} °C,{' '}
            {data.season.relativeHumidityPct.toFixed(0)} % RH
          </Quiet>
        </>
      }
    >
      <Columns even>
        <Panel label="All recipes">
          <Sideways>
            <Table>
              <TableHead>
                <TableRow>
                  <TableCell scope="col">recipe</TableCell>
                  <TableCell scope="col" align="right">
                    days
                  </TableCell>
                  <TableCell scope="col" align="right">
                    {WARMER_C} °C warmer
                  </TableCell>
                  <TableCell scope="col" align="right">
                    film
                  </TableCell>
                  <TableCell scope="col" align="right">
                    touch, min
                  </TableCell>
                  <TableCell scope="col">racks</TableCell>
                </TableRow>
              </TableHead>
              <TableBody>
                {newest.map((one) => (
                  <RecipeLine key={one.id} seen={one} recipes={data} />
                ))}
              </TableBody>
            </Table>
          </Sideways>
          <Typography color="textSecondary" style={{ marginTop: 8 }}>
            Days from the first touch to the last for a rack of twelve that never queues: work in the shifts,
            coats and cures on the wall clock. <Link to="/finish/recipes/new">A new recipe</Link>
          </Typography>
        </Panel>
        <Panel label="Two recipes side by side">
          <Typography variant="h2">Side by side</Typography>
          <Row>
            {(['a', 'b'] as const).map((side) => (
              <Choice
                key={side}
                label={side === 'a' ? 'One' : 'The other'}
                value={(side === 'a' ? left : right)?.name ?? ''}
                onChange={(name) => choose(side, name)}
                options={newest.map(({ name, recipe }) => ({ value: name, words: recipe.title }))}
                width={210}
              />
            ))}
          </Row>
          {left && right && <Comparison left={left} right={right} recipes={data} />}
        </Panel>
      </Columns>
    </Page>
  );
}

function RecipeLine({ seen, recipes }: { seen: RecipeView; recipes: Recipes }) {
  const lengths = useLengths(seen.recipe, recipes.season);
  return (
    <TableRow>
      <TableCell>
        <Link to={`/finish/recipes/${seen.name}`}>{seen.recipe.title}</Link> <Quiet>r{seen.revision}</Quiet>
        {seen.usualOf.length > 0 && <Quiet block>usual for {seen.usualOf.join(', ')}</Quiet>}
      </TableCell>
      <TableCell align="right">{lengths?.season?.days.toFixed(1) ?? lengths?.problem ?? '…'}</TableCell>
      <TableCell align="right">{lengths?.warmer?.days.toFixed(1) ?? ''}</TableCell>
      <TableCell align="right" sx={{ whiteSpace: 'nowrap' }}>
        {lengths?.season && `${lengths.season.buildUm.toFixed(0)} µm`}
        <Quiet block>≥ {seen.recipe.minimumUm} µm</Quiet>
      </TableCell>
      <TableCell align="right">{lengths?.season?.touchMinutes.toFixed(0) ?? ''}</TableCell>
      <TableCell>
        {seen.batches.slice(0, 3).map((code) => (
          <Link key={code} to={`/finish/rack/${code}`} style={{ marginRight: 5 }}>
            {code}
          </Link>
        ))}
        {seen.batches.length > 3 && <Quiet>+{seen.batches.length - 3}</Quiet>}
      </TableCell>
    </TableRow>
  );
}

function Comparison({ left, right, recipes }: { left: RecipeView; right: RecipeView; recipes: Recipes }) {
  const one = useLengths(left.recipe, recipes.season);
  const other = useLengths(right.recipe, recipes.season);
  if (!one?.season || !other?.season)
    return <Typography>{one?.problem ?? other?.problem ?? 'Working it out…'}</Typography>;
  const [a, b] = [one.season, other.season];
  const [quick, slow] = a.days <= b.days ? [left, right] : [right, left];
  const longest = Math.max(a.days, b.days);
  return (
    <>
      <Box style={{ margin: '10px 0' }}>
        <Verdict
          tone="hold"
          sentence={
            left.name === right.name
              ? 'Choose two different recipes.'
              : `${quick.recipe.title} is ${Math.abs(a.days - b.days).toFixed(1)} days shorter than ${slow.recipe.title}; ${filmWords(left, right, one, other)}.`
          }
        />
      </Box>
      <Box style={{ marginTop: 10 }}>
        <StepStrip title={left.recipe.title} recipe={left.recipe} length={a} longestDays={longest} />
        <StepStrip title={right.recipe.title} recipe={right.recipe} length={b} longestDays={longest} />
        <Typography color="textSecondary">Dark: somebody works. Hatched: it dries or cures.</Typography>
      </Box>
      <Table className="compare">
        <TableHead>
          <TableRow>
            <TableCell scope="col" />
            <TableCell scope="col">{left.recipe.title}</TableCell>
            <TableCell scope="col">{right.recipe.title}</TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          <Pair name="days" values={[a.days, b.days]} digits={1} />
          <Pair
            name={`days, ${WARMER_C} °C warmer`}
            values={[one.warmer?.days ?? 0, other.warmer?.days ?? 0]}
            digits={1}
          />
          <Pair name="of them nobody works" values={[a.waitHours / 24, b.waitHours / 24]} digits={1} />
          <Pair name="touch minutes a piece" values={[a.touchMinutes, b.touchMinutes]} digits={0} />
          <Pair name="booth minutes a piece" values={[a.boothMinutes, b.boothMinutes]} digits={0} />
          <Pair name="film left" unit="µm" values={[a.buildUm, b.buildUm]} digits={0} neutral />
          <Pair
            name="over its minimum"
            unit="µm"
            values={[a.buildUm - left.recipe.minimumUm, b.buildUm - right.recipe.minimumUm]}
            digits={0}
            more
          />
          <TableRow>
            <TableCell component="th" scope="row">
              school
            </TableCell>
            <TableCell>{left.recipe.school}</TableCell>
            <TableCell>{right.recipe.school}</TableCell>
          </TableRow>
          <TableRow>
            <TableCell component="th" scope="row">
              cautions
            </TableCell>
            <TableCell>{left.recipe.cautions.join(' ')}</TableCell>
            <TableCell>{right.recipe.cautions.join(' ')}</TableCell>
          </TableRow>
        </TableBody>
      </Table>
    </>
  );
}

function filmWords(left: RecipeView, right: RecipeView, one: Lengths, other: Lengths): string {
  const difference = (one.season?.touchMinutes ?? 0) - (other.season?.touchMinutes ?? 0);
  const less = difference <= 0 ? left : right;
  return Math.abs(difference) < 1
    ? 'both take as many touch minutes'
    : `${less.recipe.title} takes ${Math.abs(difference).toFixed(0)} touch minutes less a piece`;
}

/** Two numbers; the better one stands out, less being better unless said otherwise. */
function Pair({
  name,
  unit,
  values: [a, b],
  digits,
  more = false,
  neutral = false,
}: {
  name: string;
  unit?: string;
  values: [number, number];
  digits: number;
  more?: boolean;
  /** Neither is better by itself: thin is wanted, but not thinner than the sanding. */
  neutral?: boolean;
}) {
  const better = (own: number, others: number): string | undefined =>
    !neutral && own.toFixed(digits) !== others.toFixed(digits) && (more ? own > others : own < others)
      ? 'better'
      : undefined;
  return (
    <TableRow>
      <TableCell component="th" scope="row">
        {name}
      </TableCell>
      <TableCell className={better(a, b)}>
        {a.toFixed(digits)}
        {unit ? ` ${unit}` : ''}
      </TableCell>
      <TableCell className={better(b, a)}>
        {b.toFixed(digits)}
        {unit ? ` ${unit}` : ''}
      </TableCell>
    </TableRow>
  );
}
