import type { Operation, RouteProblem } from '@ample-crane/core';
import { Box } from '@mui/material';
import {
  Controls,
  Handle,
  MarkerType,
  Position,
  ReactFlow,
  type Connection,
  type Edge,
  type Node,
  type NodeProps,
} from '@xyflow/react';
import '@xyflow/react/dist/base.css';
import { useMemo } from 'react';
import { Quiet } from '../parts/index.ts';
import type { Draft } from './draft.ts';
import { layout, NODE } from './layout.ts';
import './RouteCanvas.css';

interface OperationData extends Record<string, unknown> {
  operation: Operation;
  stationName: string;
  wrong: boolean;
}
type OperationNode = Node<OperationData, 'operation'>;

const COLUMNS = 5;

/** The route as a drawing: operations as tags, arrows between them, rework as dashed arcs that go back. */
export function RouteCanvas({
  draft,
  problems,
  stationName,
  selected,
  onSelect,
  onConnect,
  onDisconnect,
  onRemove,
}: {
  draft: Draft;
  problems: readonly RouteProblem[];
  stationName: (code: string) => string;
  selected: string | null;
  onSelect: (key: string | null) => void;
  onConnect: (from: string, to: string) => void;
  onDisconnect: (from: string, to: string) => void;
  onRemove: (key: string) => void;
}) {
  const places = useMemo(() => layout(draft, COLUMNS), [draft]);
  const nodes = draft.operations.map((operation): OperationNode => ({
    id: operation.key,
    type: 'operation',
    position: places.get(operation.key) ?? { x: 0, y: 0 },
    width: NODE.width,
    height: NODE.height,
    // Without it every drawing anew would forget where the arrows begin and end until the browser has measured again.
    measured: NODE,
    selected: operation.key === selected,
    draggable: false,
    data: {
      operation,
      stationName: stationName(operation.stations[0] ?? ''),
      wrong: problems.some((problem) => problem.operation === operation.key),
    },
    ariaLabel: `${operation.name}, ${MODE_WORDS[operation.mode]}`,
  }));
  const edges = useMemo(() => edgesOf(draft), [draft]);
  const connect = ({ source, target }: Connection): void => {
    if (source !== target) onConnect(source, target);
  };
  return (
    <Box className="canvas">
      <ReactFlow
        nodes={nodes}
        edges={edges}
        nodeTypes={NODE_TYPES}
        onNodeClick={(_, node) => onSelect(node.id)}
        onNodesChange={(changes) => {
          // Enter or Space on a focused operation chooses it; where operations stand is not theirs to change.
          for (const change of changes) if (change.type === 'select' && change.selected) onSelect(change.id);
        }}
        onPaneClick={() => onSelect(null)}
        onConnect={connect}
        onEdgesDelete={(gone) =>
          gone.forEach((edge) => !edge.data?.rework && onDisconnect(edge.source, edge.target))
        }
        onNodesDelete={(gone) => gone.forEach((node) => onRemove(node.id))}
        fitView
        fitViewOptions={{ padding: 0.06, maxZoom: 1 }}
        minZoom={0.2}
        maxZoom={1.5}
        nodesDraggable={false}
        proOptions={{ hideAttribution: true }}
        deleteKeyCode={['Delete', 'Backspace']}
      >
        <Controls showInteractive={false} position="bottom-right" />
      </ReactFlow>
    </Box>
  );
}

export const MODE_WORDS: Record<Operation['mode'], string> = {
  attended: 'a person, piece by piece',
  load: 'a load',
  hold: 'a hold',
  gate: 'measure and decide',
  join: 'a join',
  split: 'a split',
  ship: 'shipping',
};

function edgesOf({ operations }: Draft): Edge[] {
  const arrows = operations.flatMap(({ key, next = [] }) =>
    next.map((to, i): Edge => ({
      id: `${key}>${to}`,
      source: key,
      target: to,
      sourceHandle: 'out',
      targetHandle: 'in',
      // Of several ways the first is the usual one.
      className: i === 0 ? 'way' : 'way other',
      label: next.length > 1 && i === 0 ? 'usual' : undefined,
      markerEnd: { type: MarkerType.ArrowClosed, color: 'var(--ebony)' },
      type: 'smoothstep',
    })),
  );
  const back = operations.flatMap(({ key, reworkTo }): Edge[] =>
    reworkTo === null || reworkTo === key
      ? []
      : [
          {
            id: `${key}<${reworkTo}`,
            source: key,
            target: reworkTo,
            sourceHandle: 'rework-out',
            targetHandle: 'rework-in',
            className: 'rework',
            data: { rework: true },
            markerEnd: { type: MarkerType.ArrowClosed, color: 'var(--oxblood)' },
            selectable: false,
            deletable: false,
          },
        ],
  );
  return [...arrows, ...back];
}

const NODE_TYPES = { operation: OperationTag };

/** One operation as a tag: mode by its edge, what matters in two lines. */
function OperationTag({ data, selected }: NodeProps<OperationNode>) {
  const { operation, stationName, wrong } = data;
  return (
    <Box className={`optag ${operation.mode}${selected ? ' selected' : ''}${wrong ? ' wrong' : ''}`}>
      <Handle type="target" id="in" position={Position.Left} />
      <Handle type="target" id="rework-in" position={Position.Bottom} isConnectable={false} />
      <strong>{operation.name}</strong>
      <Quiet>{tagWords(operation, stationName)}</Quiet>
      {operation.reworkTo === operation.key && <Quiet>rework stays here</Quiet>}
      <Handle type="source" id="rework-out" position={Position.Bottom} isConnectable={false} />
      <Handle type="source" id="out" position={Position.Right} />
    </Box>
  );
}

function tagWords(operation: Operation, stationName: string): string {
  switch (operation.mode) {
    case 'hold':
      return holdWords(operation);
    case 'load':
      return `${stationName}, ${operation.cycleMinutes} min a load`;
    case 'join':
      return operation.role === 'host'
        ? `${operation.partnerKind} comes in, makes ${operation.makesKind}`
        : `goes into ${operation.partnerKind}`;
    case 'split':
      return `makes ${operation.makesKinds.join(' and ')}`;
    default:
      return `${stationName}, ${operation.pieceMinutes} min a piece`;
  }
}

function holdWords({ rule }: Extract<Operation, { mode: 'hold' }>): string {
  switch (rule.rule) {
    case 'elapsed':
    case 'settle':
      return `${rule.word} ${spanOf(rule.hours)}`;
    case 'cure':
      return `${rule.word} ${spanOf(rule.referenceHours)} at 21 °C`;
    case 'moisture':
      return 'until the moisture gate passes';
    case 'ageing':
      return `up to ${rule.cycles} turns of cold and warm`;
  }
}

const spanOf = (hours: number): string =>
  hours >= 48
    ? `${(hours / 24).toFixed(0)} d`
    : hours >= 2
      ? `${hours.toFixed(0)} h`
      : `${(hours * 60).toFixed(0)} min`;
