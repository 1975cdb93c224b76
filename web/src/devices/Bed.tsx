import './Bed.css';
/** Pieces of one batch in a table or press, drawn place by place. */
export interface InBed {
  batch: string;
  pieces: number;
}

const PLACE = 30;
const GAP = 4;
const HIGH = 34;
const HEAD = 15;

/**
 * A table, press or carousel seen from above: one field a place. Filled fields lie in it (inverted while it works), outlined
 * ones are meant for it, dotted ones stay free; each batch's first field carries its code.
 */
export function Bed({
  name,
  places,
  parts,
  working = false,
  columns = 8,
}: {
  name: string;
  places: number;
  parts: readonly InBed[];
  /** The cycle or clock runs. */
  working?: boolean;
  columns?: number;
}) {
  const fields = parts.flatMap(({ batch, pieces }) =>
    Array.from({ length: pieces }, (_, i) => ({ batch, first: i === 0 })),
  );
  const across = Math.min(columns, places);
  const rows = Math.ceil(places / across);
  const width = across * (PLACE + GAP) + GAP;
  const height = rows * (HIGH + HEAD) + GAP;
  const taken = fields.length;
  const words = `${name}: ${taken === 0 ? 'empty' : parts.map((part) => `${part.pieces} of ${part.batch}`).join(', ')}, ${places - taken} of ${places} places free`;
  return (
    <svg
      className={working ? 'bed working' : 'bed'}
      viewBox={`0 0 ${width} ${height}`}
      width={width}
      role="img"
      aria-label={words}
    >
      {Array.from({ length: places }, (_, i) => {
        const x = GAP + (i % across) * (PLACE + GAP);
        const y = HEAD + Math.floor(i / across) * (HIGH + HEAD);
        const field = fields[i];
        return (
          <g key={i}>
            {field?.first && (
              <text x={x} y={y - 4} className="bedcode">
                {field.batch}
              </text>
            )}
            <rect x={x} y={y} width={PLACE} height={HIGH} rx={2} className={field ? 'taken' : 'free'} />
            {field && <path d={`M${x + 7} ${y + HIGH - 7}H${x + PLACE - 7}`} className="stop" />}
          </g>
        );
      })}
    </svg>
  );
}
