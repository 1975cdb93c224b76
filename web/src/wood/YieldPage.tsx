import {
  planBlanks,
  type BlankSize,
  type BlanksPlan,
  type BoardPlan,
  type BoardSize,
  type FirstCut,
} from '@ample-crane/core';
import { Button, MenuItem, Stack, TextField, Typography } from '@mui/material';
import { useMemo, useState, type ReactNode } from 'react';
import { useSetup } from '../api/queries.ts';
import { Columns, Page, Panel, Row } from '../parts/index.ts';
import { CutList } from './CutList.tsx';
import { useLots, useLot } from './queries.ts';
import { typedNumber } from '../shared/typed.ts';
import { WoodNav } from './WoodNav.tsx';

const WAYS: { firstCut: FirstCut; name: string }[] = [
  { firstCut: 'crosscut', name: 'Crosscut first, then rip' },
  { firstCut: 'rip', name: 'Rip first, then crosscut' },
];
const BOARDS_DRAWN = 6;
const TYPED = 'typed';
const HATCHES = ['var(--maple)', 'var(--hatch)', 'var(--fibre)', 'var(--shellac)'];

interface Line {
  name: string;
  /** Kind letter of what it is to become. */
  kind: string;
  length: string;
  width: string;
  thickness: string;
}

const START: Line[] = [
  { name: 'body half', kind: 'B', length: '520', width: '180', thickness: '45' },
  { name: 'neck', kind: 'N', length: '700', width: '75', thickness: '24' },
];

/** How many blanks boards give, drawn, by two ways of cutting beside each other. */
export default function YieldPage() {
  const { data: lots = [] } = useLots();
  const { data: setup } = useSetup();
  const kinds = (setup?.kinds ?? []).filter(({ letter }) => letter !== 'W' && letter !== 'I');
  const [source, setSource] = useState(TYPED);
  const { data: lot } = useLot(source, source !== TYPED);
  const [boardText, setBoardText] = useState('2400 265 50\n2400 260 50\n2300 270 50');
  const [sizes, setSizes] = useState<Line[]>(START);
  const [allow, setAllow] = useState({ kerf: '3', plane: '3', trim: '40', defect: '15' });
  const ofLot = useMemo(
    () =>
      source === TYPED || !lot
        ? null
        : lot.state.boards.filter(({ status }) => status === 'stacked' || status === 'to-cut'),
    [source, lot],
  );
  const boards = useMemo<BoardSize[]>(
    () =>
      ofLot && lot
        ? ofLot.map(({ lengthMm, widthMm }) => ({ lengthMm, widthMm, thicknessMm: lot.state.thicknessMm }))
        : typedBoards(boardText),
    [ofLot, lot, boardText],
  );
  const blanks = useMemo(() => sizes.flatMap(blankOf), [sizes]);
  const plans = useMemo(
    () => WAYS.map(({ firstCut }) => plan({ boards, blanks, firstCut, allow })),
    [boards, blanks, allow],
  );
  const number = (name: keyof typeof allow, label: string) => (
    <TextField
      label={label}
      value={allow[name]}
      onChange={(event) => setAllow({ ...allow, [name]: event.target.value })}
      sx={{ width: 120 }}
    />
  );
  return (
    <Page title="Cutting plan" tabs={<WoodNav />}>
      <Columns>
        <Stack>
          {plans.map((result, i) => (
            <Way
              key={WAYS[i]?.firstCut}
              name={WAYS[i]?.name ?? ''}
              result={result}
              sizes={blanks}
              best={bestOf(plans) === i}
            >
              {ofLot && lot && !('problem' in result) && (
                <CutListOffer name={WAYS[i]?.name ?? ''}>
                  <CutList lot={lot.state} plan={result} sizes={blanks} boards={ofLot} />
                </CutListOffer>
              )}
            </Way>
          ))}
        </Stack>
        <Stack>
          <Panel stack label="Boards to cut">
            <Typography variant="h2">Boards</Typography>
            <TextField select label="From" value={source} onChange={(event) => setSource(event.target.value)}>
              <MenuItem value={TYPED}>sizes typed here</MenuItem>
              {lots
                .filter(({ stacked, toCut }) => stacked + toCut > 0)
                .map(({ code, species, thicknessMm }) => (
                  <MenuItem key={code} value={code}>
                    {code}: {species}, {thicknessMm} mm
                  </MenuItem>
                ))}
            </TextField>
            {source === TYPED && (
              <TextField
                label="One line each: length width thickness, mm"
                value={boardText}
                onChange={(event) => setBoardText(event.target.value)}
                multiline
                minRows={3}
                maxRows={8}
              />
            )}
            <Typography color="textSecondary">{boards.length} boards</Typography>
          </Panel>
          <Panel stack label="Blanks wanted">
            <Typography variant="h2">Blanks</Typography>
            {sizes.map((line, i) => (
              <Row key={i} style={{ flexWrap: 'nowrap' }}>
                <TextField
                  select
                  label={i === 0 ? 'for' : undefined}
                  value={line.kind}
                  onChange={(event) =>
                    setSizes(
                      sizes.map((other, j) => (i === j ? { ...other, kind: event.target.value } : other)),
                    )
                  }
                  slotProps={{ htmlInput: { 'aria-label': `kind of blank ${i + 1}` } }}
                  sx={{ minWidth: 64 }}
                >
                  {kinds.map(({ letter }) => (
                    <MenuItem key={letter} value={letter}>
                      {letter}
                    </MenuItem>
                  ))}
                </TextField>
                {(['name', 'length', 'width', 'thickness'] as const).map((field) => (
                  <TextField
                    key={field}
                    label={i === 0 ? (field === 'name' ? 'name' : `${field}, mm`) : undefined}
                    value={line[field]}
                    onChange={(event) =>
                      setSizes(
                        sizes.map((other, j) =>
                          i === j ? { ...other, [field]: event.target.value } : other,
                        ),
                      )
                    }
                    slotProps={{ htmlInput: { 'aria-label': `${field} of blank ${i + 1}` } }}
                  />
                ))}
              </Row>
            ))}
            <Row>
              <Button
                onClick={() =>
                  setSizes([
                    ...sizes,
                    {
                      name: `size ${sizes.length + 1}`,
                      kind: 'N',
                      length: '500',
                      width: '90',
                      thickness: '24',
                    },
                  ])
                }
              >
                Another size
              </Button>
              {sizes.length > 1 && (
                <Button onClick={() => setSizes(sizes.slice(0, -1))}>Remove the last</Button>
              )}
            </Row>
          </Panel>
          <Panel label="Allowances">
            <Typography variant="h2">Lost on the way</Typography>
            <Row style={{ marginTop: 10 }}>
              {number('kerf', 'Saw cut, mm')}
              {number('plane', 'Planing, mm')}
              {number('trim', 'Each end, mm')}
              {number('defect', 'Defects, %')}
            </Row>
            <Typography color="textSecondary" style={{ marginTop: 8 }}>
              Saws and planers: guards on, hands outside the marked zone, extraction running. Follow your
              local codes and your safety officer; this is a reminder, not training.
            </Typography>
          </Panel>
        </Stack>
      </Columns>
    </Page>
  );
}

type Result = BlanksPlan | { problem: string };

function typedBoards(text: string): BoardSize[] {
  return text.split(/\r?\n/).flatMap((line) => {
    const [lengthMm, widthMm, thicknessMm] = line
      .trim()
      .split(/[\s;×x]+/)
      .map(typedNumber);
    return lengthMm != null && widthMm != null && thicknessMm != null
      ? [{ lengthMm, widthMm, thicknessMm }]
      : [];
  });
}

function blankOf({ name, kind, length, width, thickness }: Line): (BlankSize & { kind: string })[] {
  const [lengthMm, widthMm, thicknessMm] = [length, width, thickness].map(typedNumber);
  return lengthMm == null || widthMm == null || thicknessMm == null
    ? []
    : [{ name, kind, lengthMm, widthMm, thicknessMm }];
}

function plan(options: {
  boards: BoardSize[];
  blanks: BlankSize[];
  firstCut: FirstCut;
  allow: Record<string, string>;
}): Result {
  const { boards, blanks, firstCut, allow } = options;
  const value = (name: string): number => typedNumber(allow[name] ?? '') ?? NaN;
  try {
    return planBlanks({
      ...{ boards, blanks, firstCut },
      ...{
        kerfMm: value('kerf'),
        planeMm: value('plane'),
        trimMm: value('trim'),
        defectPct: value('defect'),
      },
    });
  } catch (problem) {
    if (problem instanceof RangeError) return { problem: problem.message.replace('planBlanks: ', '') };
    throw problem;
  }
}

/** The way that leaves less wood over. */
function bestOf(plans: readonly Result[]): number {
  const left = plans.map((result) => ('problem' in result ? Infinity : result.leftoverBoardFeet));
  return left[0] === left[1] ? -1 : left.indexOf(Math.min(...left));
}

/** The list is drawn when it is asked for: most plans are only looked at. */
function CutListOffer({ name, children }: { name: string; children: ReactNode }) {
  const [shown, setShown] = useState(false);
  return shown ? (
    children
  ) : (
    <Button onClick={() => setShown(true)} aria-label={`Make it the cut list: ${name}`} sx={{ mt: 1 }}>
      Make it the cut list
    </Button>
  );
}

function Way({
  name,
  result,
  sizes,
  best,
  children,
}: {
  name: string;
  result: Result;
  sizes: BlankSize[];
  best: boolean;
  children: ReactNode;
}) {
  if ('problem' in result)
    return (
      <Panel label={name}>
        <Typography variant="h2">{name}</Typography>
        <Typography style={{ color: 'var(--oxblood)' }}>{result.problem}.</Typography>
      </Panel>
    );
  const colour = (blank: string): string =>
    HATCHES[sizes.findIndex((size) => size.name === blank) % HATCHES.length] ?? 'var(--maple)';
  return (
    <Panel label={name}>
      <Typography variant="h2">
        {name}{' '}
        {best && (
          <span style={{ color: 'var(--verdigris)', fontWeight: 700, fontSize: 14 }}>leaves less over</span>
        )}
      </Typography>
      <Typography style={{ fontWeight: 700 }}>
        {sizes
          .map(
            (size) =>
              `${result.expected[size.name] ?? 0} good of ${result.counts[size.name] ?? 0} ${size.name}`,
          )
          .join(', ')}
        ; {result.usedPct.toFixed(0)} % of the face used, {result.leftoverBoardFeet.toFixed(1)} board feet
        left over.
      </Typography>
      {result.boards.slice(0, BOARDS_DRAWN).map((board, i) => (
        <BoardDrawing key={i} plan={board} colour={colour} />
      ))}
      {result.boards.length > BOARDS_DRAWN && (
        <Typography color="textSecondary">
          and {result.boards.length - BOARDS_DRAWN} boards more, cut the same way.
        </Typography>
      )}
      {children}
    </Panel>
  );
}

const LONGEST_DRAWN_MM = 3000;

/** One board to scale, its blanks on it; what is bare is left over. */
function BoardDrawing({
  plan: { board, placed },
  colour,
}: {
  plan: BoardPlan;
  colour: (name: string) => string;
}) {
  const width = Math.max(LONGEST_DRAWN_MM, board.lengthMm);
  return (
    <svg
      viewBox={`-4 -4 ${width + 8} ${board.widthMm + 8}`}
      style={{ display: 'block', width: '100%', marginTop: 6 }}
      role="img"
      aria-label={`Board of ${board.lengthMm} × ${board.widthMm} mm: ${placed.length} blanks`}
    >
      <rect
        width={board.lengthMm}
        height={board.widthMm}
        fill="var(--bone)"
        stroke="var(--ebony)"
        strokeWidth={3}
      />
      {placed.map((blank, i) => (
        <g key={i}>
          <rect
            x={blank.xMm}
            y={blank.yMm}
            width={blank.lengthMm}
            height={blank.widthMm}
            fill={colour(blank.name)}
            stroke="var(--ebony)"
            strokeWidth={2}
          />
          {blank.widthMm > 55 && (
            <text x={blank.xMm + 12} y={blank.yMm + blank.widthMm / 2 + 14} fontSize={40} fill="var(--ebony)">
              {blank.name}
              {blank.layers > 1 && ` × ${blank.layers}`}
            </text>
          )}
        </g>
      ))}
    </svg>
  );
}
