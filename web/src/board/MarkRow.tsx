import { count, STAGES, type Stage } from '@ample-crane/core';
import { Box } from '@mui/material';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import type { Floor } from '../api/queries.ts';
import { RACK_FILTERS } from '../fields/RackFilters.tsx';
import { Quiet } from '../parts/index.ts';
import { STAGE_NAMES } from '../shared/stages.ts';
import type { InAddress } from '../shared/useInAddress.ts';
import { BoardName } from './AskBoard.tsx';
import type { Mark, StageOf } from './marks.ts';
import './MarkRow.css';

/** Four lines of marks in a cell; more are a number. */
const MOST_MARKS = 40;

const IS: Record<Mark['is'], string> = {
  inHand: 'in hand',
  waiting: 'waiting',
  onHold: 'on hold',
  ahead: 'pieces ahead of the others',
};

/** The stage of each station of the floor. */
export function stagesOf({ stations }: Pick<Floor, 'stations'>): StageOf {
  const stages = new Map(stations.map(({ code, stage }) => [code, stage]));
  return (station) => stages.get(station);
}

/** Names of the columns, and what the marks mean. */
export function MarksHead({ last, onAsk }: { last: string; onAsk: () => void }) {
  return (
    <>
      <div className="modelrow boardhead">
        <BoardName onAsk={onAsk} />
        {STAGES.map((name) => (
          <strong key={name}>{STAGE_NAMES[name]}</strong>
        ))}
        <Quiet>{last}</Quiet>
      </div>
      <Box className="marklegend" aria-hidden="true">
        {(Object.keys(IS) as Mark['is'][]).map((is) => (
          <span key={is}>
            <i className="mark" data-is={is} /> {IS[is]}
          </span>
        ))}
        <span>
          <i className="mark late" data-is="inHand" /> will be late
        </span>
      </Box>
    </>
  );
}

/** One row: its name, its racks as marks in each stage, and what comes last. */
export function MarkRow(props: {
  name: string;
  head: ReactNode;
  stages: Record<Stage, Mark[]>;
  /** What is asked of the list of racks that a cell leads to, besides what the board is asked; null: it leads nowhere. */
  list: Record<string, string> | null;
  address: InAddress;
  children: ReactNode;
}) {
  const { name, head, stages, list, address, children } = props;
  return (
    <div className="modelrow" role="group" aria-label={name}>
      <div className="model">{head}</div>
      {STAGES.map((stage) => (
        <Cell key={stage} {...{ name, stage, list, address }} marks={stages[stage]} />
      ))}
      <div className="duenext">{children}</div>
    </div>
  );
}

/** The racks of a row in one stage; leads to them in the list. */
function Cell(props: {
  name: string;
  stage: Stage;
  marks: readonly Mark[];
  list: Record<string, string> | null;
  address: InAddress;
}) {
  const { name, stage, marks, list, address } = props;
  if (marks.length === 0) return <div className="marks" />;
  const late = marks.filter((mark) => mark.late).length;
  const more = marks.length - MOST_MARKS;
  const words = `${name} in ${STAGE_NAMES[stage]}: ${count(marks.length, 'rack')}, ${late} late`;
  const drawn = (
    <>
      <span className="stagename">{STAGE_NAMES[stage]}</span>
      {marks.slice(0, MOST_MARKS).map(({ batch, is, late: isLate }) => (
        <i key={batch} className={`mark${isLate ? ' late' : ''}`} data-is={is} />
      ))}
      <span className="marknumber">{more > 0 ? `… ${marks.length}` : marks.length}</span>
    </>
  );
  if (list === null)
    return (
      <div className="marks" role="img" aria-label={words} title={words}>
        {drawn}
      </div>
    );
  const search = new URLSearchParams();
  for (const one of RACK_FILTERS) if (address.asked(one) !== '') search.set(one, address.asked(one));
  for (const [one, value] of Object.entries({ ...list, stage })) search.set(one, value);
  return (
    <Link className="marks" to={`/racks?${search}`} aria-label={words} title={words}>
      {drawn}
    </Link>
  );
}
