import { pieceCode } from '@ample-crane/core';
import { Link } from 'react-router';

/** The place of a piece, leading to what is kept of it. */
export function PassportLink({ batch, position }: { batch: string; position: number }) {
  return (
    <Link
      to={`/passport/${batch}/${position}`}
      aria-label={`Passport of ${pieceCode(batch, position)}`}
      className="condensed"
    >
      {String(position).padStart(2, '0')}
    </Link>
  );
}
