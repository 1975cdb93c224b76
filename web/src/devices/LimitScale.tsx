import './LimitScale.css';

/** How much of what lies between the limits is shown beyond each of them. */
const BEYOND = 0.5;
const WIDTH = 200;
const MIDDLE = 17;

/**
 * One value between its limits: the band that is wanted, each other instrument of the model as a stroke, this one as a mark (round
 * inside, a diamond outside), and what it was before as a ring. What lies far outside stands at the end of the scale.
 */
export function LimitScale(props: {
  lower: number | null;
  upper: number | null;
  nominal: number;
  value: number | null;
  /** It lies outside: told, so that it is judged in one place. */
  outside: boolean;
  before?: number | null;
  others?: readonly number[];
  words: string;
}) {
  const { nominal, value, before = null, others = [], words } = props;
  const lower = props.lower ?? nominal - ((props.upper ?? nominal) - nominal || 1);
  const upper = props.upper ?? nominal + (nominal - lower || 1);
  const span = upper - lower;
  const from = lower - BEYOND * span;
  const to = upper + BEYOND * span;
  const x = (at: number): number =>
    Math.round(((Math.min(to, Math.max(from, at)) - from) / (to - from)) * WIDTH * 10) / 10;
  return (
    <svg className="limit-scale" viewBox={`0 0 ${WIDTH} 34`} role="img" aria-label={words}>
      <rect className="band" x={x(lower)} y={5} width={x(upper) - x(lower)} height={24} />
      <line className="axis" x1={0} x2={WIDTH} y1={MIDDLE} y2={MIDDLE} />
      {[lower, upper].map((edge) => (
        <line key={edge} className="edge" x1={x(edge)} x2={x(edge)} y1={5} y2={29} />
      ))}
      {others.map((one, i) => (
        <line key={i} className="other" x1={x(one)} x2={x(one)} y1={9} y2={25} />
      ))}
      {before !== null && value !== null && (
        <line className="moved" x1={x(before)} x2={x(value)} y1={MIDDLE} y2={MIDDLE} strokeWidth={2} />
      )}
      {before !== null && <circle className="was" cx={x(before)} cy={MIDDLE} r={5} />}
      {value !== null &&
        (props.outside ? (
          <path className="is out" d={`M${x(value)} ${MIDDLE - 8}l8 8l-8 8l-8 -8z`} />
        ) : (
          <circle className="is" cx={x(value)} cy={MIDDLE} r={6} />
        ))}
    </svg>
  );
}
