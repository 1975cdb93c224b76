import { Link, useSearchParams } from 'react-router';
import { Verdict } from '../devices/Verdict.tsx';
import { Choice } from '../fields/Choice.tsx';
import { FinishNav } from './FinishNav.tsx';
import { StepStrip } from './StepStrip.tsx';
import { useRecipes, type Recipes, type RecipeView } from './queries.ts';
import { useLengths, WARMER_C, type Lengths } from './useLengths.ts';

/** The recipes with their whole length in this season's air, and any two of them side by side. */
export default function RecipesPage() {
  const { data, error } = useRecipes();
  const [asked, setAsked] = useSearchParams();
  if (!data) return <p className="title">{error?.message ?? 'Opening…'}</p>;
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
    <>
      <div className="title">
        <h1>Recipes</h1>
        <FinishNav />
        <span className="quiet">
          in {data.room ?? 'this'}’s air of the last two weeks: {data.season.temperatureC.toFixed(1)} °C,{' '}
          {data.season.relativeHumidityPct.toFixed(0)} % RH
        </span>
      </div>
      <div className="columns even">
        <section className="panel" aria-label="All recipes">
          <div style={{ overflowX: 'auto' }}>
            <table>
              <thead>
                <tr>
                  <th scope="col">recipe</th>
                  <th scope="col" className="number">
                    days
                  </th>
                  <th scope="col" className="number">
                    {WARMER_C} °C warmer
                  </th>
                  <th scope="col" className="number">
                    film, µm
                  </th>
                  <th scope="col" className="number">
                    touch, min
                  </th>
                  <th scope="col">racks</th>
                </tr>
              </thead>
              <tbody>
                {newest.map((one) => (
                  <RecipeLine key={one.id} seen={one} recipes={data} />
                ))}
              </tbody>
            </table>
          </div>
          <p className="quiet" style={{ marginTop: 8 }}>
            Days from the first touch to the last for a rack of twelve that never queues: work in the shifts,
            coats and cures on the wall clock. <Link to="/finish/recipes/new">A new recipe</Link>
          </p>
        </section>
        <section className="panel" aria-label="Two recipes side by side">
          <h2>Side by side</h2>
          <div className="row">
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
          </div>
          {left && right && <Comparison left={left} right={right} recipes={data} />}
        </section>
      </div>
    </>
  );
}

function RecipeLine({ seen, recipes }: { seen: RecipeView; recipes: Recipes }) {
  const lengths = useLengths(seen.recipe, recipes.season);
  return (
    <tr>
      <td>
        <Link to={`/finish/recipes/${seen.name}`}>{seen.recipe.title}</Link>{' '}
        <span className="quiet">r{seen.revision}</span>
        {seen.usualOf.length > 0 && <div className="quiet">usual for {seen.usualOf.join(', ')}</div>}
      </td>
      <td className="number">{lengths?.season?.days.toFixed(1) ?? lengths?.problem ?? '…'}</td>
      <td className="number">{lengths?.warmer?.days.toFixed(1) ?? ''}</td>
      <td className="number">
        {lengths?.season?.buildUm.toFixed(0) ?? ''}
        <div className="quiet">≥ {seen.recipe.minimumUm}</div>
      </td>
      <td className="number">{lengths?.season?.touchMinutes.toFixed(0) ?? ''}</td>
      <td>
        {seen.batches.slice(0, 3).map((code) => (
          <Link key={code} to={`/finish/rack/${code}`} style={{ marginRight: 5 }}>
            {code}
          </Link>
        ))}
        {seen.batches.length > 3 && <span className="quiet">+{seen.batches.length - 3}</span>}
      </td>
    </tr>
  );
}

function Comparison({ left, right, recipes }: { left: RecipeView; right: RecipeView; recipes: Recipes }) {
  const one = useLengths(left.recipe, recipes.season);
  const other = useLengths(right.recipe, recipes.season);
  if (!one?.season || !other?.season) return <p>{one?.problem ?? other?.problem ?? 'Working it out…'}</p>;
  const [a, b] = [one.season, other.season];
  const [quick, slow] = a.days <= b.days ? [left, right] : [right, left];
  const longest = Math.max(a.days, b.days);
  return (
    <>
      <div style={{ margin: '10px 0' }}>
        <Verdict
          tone="hold"
          sentence={
            left.name === right.name
              ? 'Choose two different recipes.'
              : `${quick.recipe.title} is ${Math.abs(a.days - b.days).toFixed(1)} days shorter than ${slow.recipe.title}; ${filmWords(left, right, one, other)}.`
          }
        />
      </div>
      <div style={{ marginTop: 10 }}>
        <StepStrip title={left.recipe.title} recipe={left.recipe} length={a} longestDays={longest} />
        <StepStrip title={right.recipe.title} recipe={right.recipe} length={b} longestDays={longest} />
        <p className="quiet">Dark: somebody works. Hatched: it dries or cures.</p>
      </div>
      <table className="compare">
        <thead>
          <tr>
            <th scope="col" />
            <th scope="col">{left.recipe.title}</th>
            <th scope="col">{right.recipe.title}</th>
          </tr>
        </thead>
        <tbody>
          <Pair name="days" values={[a.days, b.days]} digits={1} />
          <Pair
            name={`days, ${WARMER_C} °C warmer`}
            values={[one.warmer?.days ?? 0, other.warmer?.days ?? 0]}
            digits={1}
          />
          <Pair name="of them nobody works" values={[a.waitHours / 24, b.waitHours / 24]} digits={1} />
          <Pair name="touch minutes a piece" values={[a.touchMinutes, b.touchMinutes]} digits={0} />
          <Pair name="booth minutes a piece" values={[a.boothMinutes, b.boothMinutes]} digits={0} />
          <Pair name="film left, µm" values={[a.buildUm, b.buildUm]} digits={0} neutral />
          <Pair
            name="over its minimum, µm"
            values={[a.buildUm - left.recipe.minimumUm, b.buildUm - right.recipe.minimumUm]}
            digits={0}
            more
          />
          <tr>
            <th scope="row">school</th>
            <td>{left.recipe.school}</td>
            <td>{right.recipe.school}</td>
          </tr>
          <tr>
            <th scope="row">cautions</th>
            <td>{left.recipe.cautions.join(' ')}</td>
            <td>{right.recipe.cautions.join(' ')}</td>
          </tr>
        </tbody>
      </table>
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
  values: [a, b],
  digits,
  more = false,
  neutral = false,
}: {
  name: string;
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
    <tr>
      <th scope="row">{name}</th>
      <td className={better(a, b)}>{a.toFixed(digits)}</td>
      <td className={better(b, a)}>{b.toFixed(digits)}</td>
    </tr>
  );
}
