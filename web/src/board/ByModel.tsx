import { count, isLike, STAGES, type Stage } from '@ample-crane/core';
import { Box, Typography } from '@mui/material';
import { Link } from 'react-router';
import { useRackList, type Floor, type RackLine } from '../api/queries.ts';
import { RACK_FILTERS, rackQuestion } from '../fields/RackFilters.tsx';
import { EmptyState, Opening, Quiet } from '../parts/index.ts';
import { STAGE_NAMES } from '../shared/stages.ts';
import { sayDate } from '../shared/time.ts';
import type { InAddress } from '../shared/useInAddress.ts';
import { BoardName } from './AskBoard.tsx';
import { byModel, type Mark, type ModelRow } from './by-model.ts';
import './ByModel.css';

/** Four lines of marks in a cell; more are a number. */
const MOST_MARKS = 40;

const IS: Record<Mark['is'], string> = {
  inHand: 'in hand',
  waiting: 'waiting',
  onHold: 'on hold',
  ahead: 'pieces ahead of the others',
};

/** Every open rack as a mark: a row for each model, a column for each stage. */
export function ByModel({ floor, address, onAsk }: { floor: Floor; address: InAddress; onAsk: () => void }) {
  const { data: lines, error } = useRackList();
  if (!lines) return <Opening error={error} />;
  const stages = new Map(floor.stations.map(({ code, stage }) => [code, stage]));
  const stageOf = (station: string): Stage | undefined => stages.get(station);
  const stage = address.asked('stage');
  const question = rackQuestion(address);
  const asked = (line: RackLine): boolean =>
    isLike(line, question) && (stage === '' || line.stations.some((station) => stageOf(station) === stage));
  const rows = byModel(lines.filter(asked), stageOf);
  return (
    <>
      <div className="modelrow boardhead">
        <BoardName onAsk={onAsk} />
        {STAGES.map((name) => (
          <strong key={name}>{STAGE_NAMES[name]}</strong>
        ))}
        <Quiet>due next</Quiet>
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
      {rows.map((row) => (
        <Model key={row.model} row={row} zone={floor.zone} address={address} />
      ))}
      {rows.length === 0 && lines.length > 0 && <EmptyState>No open rack is like that.</EmptyState>}
    </>
  );
}

function Model({ row, zone, address }: { row: ModelRow; zone: string; address: InAddress }) {
  const { model, racks, pieces, late, next, stages } = row;
  return (
    <div className="modelrow" role="group" aria-label={model}>
      <div className="model">
        <b>{model}</b>
        <span>
          {count(racks, 'rack')}, {count(pieces, 'piece')}
        </span>
      </div>
      {STAGES.map((stage) => (
        <Cell key={stage} {...{ model, stage, address }} marks={stages[stage]} />
      ))}
      <div className="duenext">
        <Link to={`/batch/${next.batch}`} data-rack={next.batch} className="condensed codelink">
          {next.batch}
        </Link>{' '}
        {sayDate(next.dueMs, zone)}
        {late > 0 && (
          <Typography sx={{ fontSize: 12, color: 'error.main', fontWeight: 700 }}>
            {late} of {racks} late
          </Typography>
        )}
      </div>
    </div>
  );
}

/** The racks of a model in one stage; leads to them in the list. */
function Cell({
  model,
  stage,
  marks,
  address,
}: {
  model: string;
  stage: Stage;
  marks: readonly Mark[];
  address: InAddress;
}) {
  if (marks.length === 0) return <div className="marks" />;
  const late = marks.filter((mark) => mark.late).length;
  const more = marks.length - MOST_MARKS;
  const words = `${model} in ${STAGE_NAMES[stage]}: ${count(marks.length, 'rack')}, ${late} late`;
  const list = new URLSearchParams(
    RACK_FILTERS.flatMap((name) => (address.asked(name) === '' ? [] : [[name, address.asked(name)]])),
  );
  list.set('model', model);
  list.set('stage', stage);
  return (
    <Link className="marks" to={`/racks?${list}`} aria-label={words} title={words}>
      <span className="stagename">{STAGE_NAMES[stage]}</span>
      {marks.slice(0, MOST_MARKS).map(({ batch, is, late }) => (
        <i key={batch} className={`mark${late ? ' late' : ''}`} data-is={is} />
      ))}
      <span className="marknumber">{more > 0 ? `… ${marks.length}` : marks.length}</span>
    </Link>
  );
}
