import { XMLParser } from 'fast-xml-parser';

/**
 * The part of MTConnect (ANSI/MTC1.4, Part 1 and Part 2: Streams and Devices documents) that the machines here speak: an
 * agent answers probe, current and sample over HTTP with XML.
 */
export interface Observation {
  sequence: number;
  atMs: number;
  /** Name of the component stream it came from: the device, or a path of its controller. */
  component: string;
  /** Element name: 'Execution', 'Program', 'PartCount' … */
  item: string;
  category: 'sample' | 'event' | 'condition';
  /** Text; for a condition its level ('Normal', 'Fault') and text together. */
  value: string;
}

export interface Streams {
  instanceId: number;
  firstSequence: number;
  lastSequence: number;
  nextSequence: number;
  creationMs: number;
  device: string;
  observations: Observation[];
}

export interface Devices {
  instanceId: number;
  bufferSize: number;
  device: { name: string; uuid: string; id: string };
  /** Paths of the controller: the tables or heads that run by themselves. */
  paths: { id: string; name: string }[];
}

/** An answer that is no MTConnect document, or an error document; the message says which. */
export class MTConnectTrouble extends Error {
  constructor(
    message: string,
    /** 'OUT_OF_RANGE': the wanted sequence is no longer, or not yet, in the agent's buffer. */
    readonly errorCode: string | null = null,
  ) {
    super(message);
  }
}

/** Documents of MTConnect are a dozen tags deep. */
const DEEPEST = 40;
/** Observations borne in one answer; a full `current` of a large machine has some hundreds. */
const MOST_OBSERVATIONS = 5000;
const LONGEST_VALUE = 200;
const CONTROL_CHARACTERS = /\p{Cc}/gu;
/** Years a clock can show. */
const [EARLIEST_MS, LATEST_MS] = [0, Date.UTC(2200, 0, 1)];
/** Error codes of Part 1; what else an agent sends is not repeated. */
const ERROR_CODES = new Set([
  'UNAUTHORIZED',
  'NO_DEVICE',
  'OUT_OF_RANGE',
  'TOO_MANY',
  'INVALID_URI',
  'INVALID_REQUEST',
  'INTERNAL_ERROR',
  'INVALID_XPATH',
  'UNSUPPORTED',
]);

const parser = new XMLParser({
  ignoreAttributes: false,
  attributeNamePrefix: '@',
  textNodeName: '#text',
  parseTagValue: false,
  parseAttributeValue: false,
  removeNSPrefix: true,
  alwaysCreateTextNode: true,
  preserveOrder: false,
  maxNestedTags: DEEPEST,
  isArray: (name) => LISTS.has(name),
});
const LISTS = new Set(['DeviceStream', 'ComponentStream', 'Device', 'Path', 'Error', 'Controller']);

type Node = Record<string, unknown>;
const isNode = (value: unknown): value is Node => typeof value === 'object' && value !== null;
const child = (node: unknown, name: string): unknown => (isNode(node) ? node[name] : undefined);
const list = (value: unknown): unknown[] =>
  Array.isArray(value) ? value : value === undefined ? [] : [value];
const text = (node: unknown, attribute: string): string => {
  const value = child(node, `@${attribute}`);
  return typeof value === 'string' ? plain(value) : '';
};
/** A line of words that can be kept and shown. */
const plain = (value: string): string =>
  value.replaceAll(CONTROL_CHARACTERS, ' ').slice(0, LONGEST_VALUE).trim();

/** What stands between an element's tags. */
function textOf(node: unknown): string {
  const value = child(node, '#text');
  return typeof value === 'string' ? plain(value) : '';
}

/** @throws MTConnectTrouble for what is no instant, or a year no clock shows. */
function instant(node: unknown, attribute: string): number {
  const ms = Date.parse(text(node, attribute));
  if (!(ms >= EARLIEST_MS && ms < LATEST_MS)) throw new MTConnectTrouble(`a ${attribute} is no time`);
  return ms;
}

function whole(node: unknown, attribute: string): number {
  const value = Number(text(node, attribute));
  if (!Number.isSafeInteger(value) || value < 0) throw new MTConnectTrouble(`the header has no ${attribute}`);
  return value;
}

function rootOf(xml: string, wanted: 'MTConnectStreams' | 'MTConnectDevices'): Node {
  let parsed: unknown;
  try {
    parsed = parser.parse(xml);
  } catch {
    throw new MTConnectTrouble('it is no XML');
  }
  const errors = list(child(child(child(parsed, 'MTConnectError'), 'Errors'), 'Error'));
  const [error] = errors;
  if (error !== undefined) {
    const code = text(error, 'errorCode');
    throw new MTConnectTrouble(
      `the agent says ${ERROR_CODES.has(code) ? code : 'that something is wrong'}`,
      code,
    );
  }
  const root = child(parsed, wanted);
  if (!isNode(root)) throw new MTConnectTrouble(`it is no ${wanted} document`);
  return root;
}

/** Reads a Streams document. @throws MTConnectTrouble when it is none, or an error document. */
export function readStreams(xml: string): Streams {
  const root = rootOf(xml, 'MTConnectStreams');
  const header = child(root, 'Header');
  const [device] = list(child(child(root, 'Streams'), 'DeviceStream'));
  const observations = list(child(device, 'ComponentStream')).flatMap(observationsOf);
  if (observations.length > MOST_OBSERVATIONS)
    throw new MTConnectTrouble(`it tells more than ${MOST_OBSERVATIONS} things at once`);
  return {
    instanceId: whole(header, 'instanceId'),
    firstSequence: whole(header, 'firstSequence'),
    lastSequence: whole(header, 'lastSequence'),
    nextSequence: whole(header, 'nextSequence'),
    creationMs: instant(header, 'creationTime'),
    device: text(device, 'name'),
    observations: observations.sort((a, b) => a.sequence - b.sequence),
  };
}

function observationsOf(component: unknown): Observation[] {
  const name = text(component, 'name') || text(component, 'component');
  return (
    [
      ['Samples', 'sample'],
      ['Events', 'event'],
      ['Condition', 'condition'],
    ] as const
  ).flatMap(([holder, category]) => {
    const held = child(component, holder);
    if (!isNode(held)) return [];
    return Object.entries(held).flatMap(([item, nodes]) =>
      item.startsWith('@') || item === '#text'
        ? []
        : list(nodes).map((node): Observation => {
            const atMs = instant(node, 'timestamp');
            const sequence = Number(text(node, 'sequence'));
            if (!Number.isSafeInteger(sequence))
              throw new MTConnectTrouble('something it tells has no sequence');
            const said = textOf(node);
            return {
              sequence,
              atMs,
              component: name,
              item: category === 'condition' ? 'Condition' : plain(item),
              category,
              value: category === 'condition' ? plain(`${item} ${said}`) : said,
            };
          }),
    );
  });
}

/** Reads a Devices document. @throws MTConnectTrouble when it is none. */
export function readDevices(xml: string): Devices {
  const root = rootOf(xml, 'MTConnectDevices');
  const header = child(root, 'Header');
  const [device] = list(child(child(root, 'Devices'), 'Device'));
  if (!isNode(device)) throw new MTConnectTrouble('it names no device');
  const controllers = list(child(child(device, 'Components'), 'Controller'));
  const paths = controllers.flatMap((controller) =>
    list(child(child(controller, 'Components'), 'Path')).map((path) => ({
      id: text(path, 'id'),
      name: text(path, 'name'),
    })),
  );
  return {
    instanceId: whole(header, 'instanceId'),
    bufferSize: whole(header, 'bufferSize'),
    device: { name: text(device, 'name'), uuid: text(device, 'uuid'), id: text(device, 'id') },
    paths,
  };
}
