import { XMLParser } from 'fast-xml-parser';
import {
  devicesDocument,
  errorDocument,
  streamsDocument,
  type Agent,
  type Observed,
} from './mtconnect-documents.ts';

/**
 * Element names and where each may stand, as the schemas of the standard have them (MTConnectDevices_1.4.xsd and
 * MTConnectStreams_1.4.xsd), for the elements used here: parent → children, with the attributes that must be there.
 */
const DEVICES: Record<string, string[]> = {
  MTConnectDevices: ['Header', 'Devices'],
  Devices: ['Device'],
  Device: ['DataItems', 'Components'],
  Components: ['Controller', 'Path'],
  Controller: ['Components'],
  Path: ['DataItems'],
  DataItems: ['DataItem'],
  Header: [],
  DataItem: [],
};
const STREAMS: Record<string, string[]> = {
  MTConnectStreams: ['Header', 'Streams'],
  Streams: ['DeviceStream'],
  DeviceStream: ['ComponentStream'],
  ComponentStream: ['Samples', 'Events', 'Condition'],
  Events: ['Availability', 'Program', 'Execution', 'ControllerMode', 'PartCount'],
  Condition: ['Normal', 'Warning', 'Fault', 'Unavailable'],
  Header: [],
  ...Object.fromEntries(
    ['Availability', 'Program', 'Execution', 'ControllerMode', 'PartCount', 'Normal', 'Fault'].map((name) => [
      name,
      [],
    ]),
  ),
};
const NEEDED: Record<string, string[]> = {
  Header: ['creationTime', 'sender', 'instanceId', 'version', 'bufferSize'],
  Device: ['id', 'name', 'uuid'],
  Controller: ['id'],
  Path: ['id'],
  DataItem: ['category', 'id', 'type'],
  DeviceStream: ['name', 'uuid'],
  ComponentStream: ['component', 'componentId'],
  ...Object.fromEntries(
    ['Availability', 'Program', 'Execution', 'ControllerMode', 'PartCount'].map((name) => [
      name,
      ['dataItemId', 'sequence', 'timestamp'],
    ]),
  ),
  Normal: ['dataItemId', 'sequence', 'timestamp', 'type'],
  Fault: ['dataItemId', 'sequence', 'timestamp', 'type'],
};
/** Controlled vocabulary of the data items with one. */
const VALUES: Record<string, RegExp> = {
  Availability: /^(AVAILABLE|UNAVAILABLE)$/,
  Execution:
    /^(READY|ACTIVE|INTERRUPTED|FEED_HOLD|STOPPED|OPTIONAL_STOP|PROGRAM_STOPPED|PROGRAM_COMPLETED|UNAVAILABLE)$/,
  ControllerMode: /^(AUTOMATIC|MANUAL|MANUAL_DATA_INPUT|SEMI_AUTOMATIC|EDIT|UNAVAILABLE)$/,
  PartCount: /^(\d+|UNAVAILABLE)$/,
};

interface Seen {
  name: string;
  attributes: Record<string, string>;
  text: string;
  children: Seen[];
}
type Ordered = Record<string, unknown>;

function tree(xml: string): Seen[] {
  const parsed = new XMLParser({
    preserveOrder: true,
    parseTagValue: false,
    ignoreAttributes: false,
    attributeNamePrefix: '',
  }).parse(xml) as Ordered[];
  const read = (nodes: Ordered[]): Seen[] =>
    nodes.flatMap((node) => {
      const name = Object.keys(node).find((key) => key !== ':@' && key !== '#text' && key !== '?xml');
      if (name === undefined) return [];
      const inner = node[name] as Ordered[];
      const text = inner.map((one) => (typeof one['#text'] === 'string' ? one['#text'] : '')).join('');
      return [
        { name, attributes: (node[':@'] ?? {}) as Record<string, string>, text, children: read(inner) },
      ];
    });
  return read(parsed);
}

/** Everything in a document that the standard does not allow, in words. */
function faults(xml: string, allowed: Record<string, string[]>): { found: string[]; elements: number } {
  const found: string[] = [];
  let elements = 0;
  const look = ({ name, attributes, text, children }: Seen): void => {
    elements += 1;
    for (const needed of NEEDED[name] ?? [])
      if (!(needed in attributes)) found.push(`${name} has no ${needed}`);
    if (
      'timestamp' in attributes &&
      !/^\d{4}-\d\d-\d\dT\d\d:\d\d:\d\d(\.\d+)?Z$/.test(attributes.timestamp ?? '')
    )
      found.push(`${name}: timestamp '${attributes.timestamp}'`);
    if (VALUES[name] && !VALUES[name].test(text)) found.push(`${name}: '${text}'`);
    for (const child of children) {
      if (!(allowed[name] ?? []).includes(child.name)) found.push(`${child.name} within ${name}`);
      look(child);
    }
  };
  tree(xml).forEach(look);
  return { found, elements };
}

const agent: Agent = {
  instanceId: 17,
  bufferSize: 512,
  device: { id: 'mill', name: 'mill', uuid: 'stand-in-mill' },
  paths: ['table-b1', 'table-b2'],
};
const at = '2026-11-23T13:20:00.000Z';
const observed: Observed[] = [
  { sequence: 1, at, path: '', item: 'Availability', value: 'AVAILABLE' },
  { sequence: 2, at, path: 'table-b1', item: 'Program', value: 'halyard-b/mill <r1> & more' },
  { sequence: 3, at, path: 'table-b1', item: 'Execution', value: 'ACTIVE' },
  { sequence: 4, at, path: 'table-b1', item: 'ControllerMode', value: 'AUTOMATIC' },
  { sequence: 5, at, path: 'table-b2', item: 'PartCount', value: '4' },
  { sequence: 6, at, path: 'table-b2', item: 'System', value: 'Fault VACUUM LOW' },
];

describe('the documents of the simulated mill', () => {
  it('have the element names and structure of a Devices document, each data item described once', () => {
    const { found, elements } = faults(devicesDocument(agent, at), DEVICES);
    expect(found).toEqual([]);
    expect(elements).toBeGreaterThan(15);
    const ids = [...devicesDocument(agent, at).matchAll(/<DataItem[^>]* id="([^"]+)"/g)].map(([, id]) => id);
    expect(new Set(ids).size).toBe(ids.length);
  });

  it('have the element names and structure of a Streams document, and name data items the probe described', () => {
    const xml = streamsDocument(agent, at, { first: 1, last: 6, next: 7 }, observed);
    const { found, elements } = faults(xml, STREAMS);
    expect(found).toEqual([]);
    expect(elements).toBeGreaterThan(12);
    const described = devicesDocument(agent, at);
    for (const [, id] of xml.matchAll(/dataItemId="([^"]+)"/g)) expect(described).toContain(` id="${id}"`);
    expect(xml).toContain('firstSequence="1" lastSequence="6" nextSequence="7"');
  });

  it('escape what is text, and put a fault where conditions stand', () => {
    const xml = streamsDocument(agent, at, { first: 1, last: 6, next: 7 }, observed);
    expect(xml).toContain('halyard-b/mill &lt;r1&gt; &amp; more');
    expect(xml).toMatch(/<Condition><Fault [^>]*type="SYSTEM"[^>]*>VACUUM LOW<\/Fault><\/Condition>/);
  });

  it('say errors in an Error document', () => {
    const [root] = tree(errorDocument(agent, at, 'OUT_OF_RANGE', 'too early'));
    expect(root?.name).toBe('MTConnectError');
    expect(root?.children.map(({ name }) => name)).toEqual(['Header', 'Errors']);
    expect(root?.children[1]?.children[0]).toMatchObject({
      name: 'Error',
      text: 'too early',
      attributes: { errorCode: 'OUT_OF_RANGE' },
    });
  });

  it('that were wrong would be found', () => {
    const wrong = streamsDocument(agent, at, { first: 1, last: 6, next: 7 }, observed)
      .replaceAll('Execution', 'Executing')
      .replace('ACTIVE', 'CUTTING');
    expect(faults(wrong, STREAMS).found).toEqual(['Executing within Events']);
  });
});
