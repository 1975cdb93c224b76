/**
 * The documents an MTConnect agent answers with (ANSI/MTC1.4): Devices for probe, Streams for current and sample, Error.
 * Only what a mill of two tables needs: availability, and for each path program, execution, controller mode, part count and
 * a system condition.
 */
export interface Observed {
  sequence: number;
  at: string;
  path: string;
  item: 'Availability' | 'Program' | 'Execution' | 'ControllerMode' | 'PartCount' | 'System';
  value: string;
}

export interface Agent {
  instanceId: number;
  bufferSize: number;
  device: { id: string; name: string; uuid: string };
  paths: readonly string[];
}

const escaped = (text: string): string =>
  text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;').replaceAll('"', '&quot;');

const attributes = (of: Record<string, string | number>): string =>
  Object.entries(of)
    .map(([name, value]) => ` ${name}="${escaped(String(value))}"`)
    .join('');

const SCHEMA = '1.4';
const namespaces = (document: string): string =>
  ` xmlns="urn:mtconnect.org:MTConnect${document}:${SCHEMA}"` +
  ` xmlns:xsi="http://www.w3.org/2001/XMLSchema-instance"` +
  ` xsi:schemaLocation="urn:mtconnect.org:MTConnect${document}:${SCHEMA} MTConnect${document}_${SCHEMA}.xsd"`;

const header = (agent: Agent, at: string, rest: Record<string, number> = {}): string =>
  `<Header${attributes({
    creationTime: at,
    sender: 'stand-in',
    instanceId: agent.instanceId,
    version: `${SCHEMA}.0.0`,
    bufferSize: agent.bufferSize,
    ...rest,
  })}/>`;

const DATA_ITEMS = [
  { category: 'EVENT', type: 'PROGRAM', name: 'program' },
  { category: 'EVENT', type: 'EXECUTION', name: 'execution' },
  { category: 'EVENT', type: 'CONTROLLER_MODE', name: 'mode' },
  { category: 'EVENT', type: 'PART_COUNT', name: 'parts' },
  { category: 'CONDITION', type: 'SYSTEM', name: 'system' },
];

export function devicesDocument(agent: Agent, at: string): string {
  const { device, paths } = agent;
  const items = (path: string): string =>
    DATA_ITEMS.map(
      ({ category, type, name }) =>
        `<DataItem${attributes({ category, id: `${path}-${name}`, name, type })}/>`,
    ).join('');
  const path = (name: string): string =>
    `<Path${attributes({ id: `path-${name}`, name })}><DataItems>${items(name)}</DataItems></Path>`;
  return (
    `<?xml version="1.0" encoding="UTF-8"?><MTConnectDevices${namespaces('Devices')}>` +
    header(agent, at) +
    `<Devices><Device${attributes(device)}><DataItems>` +
    `<DataItem${attributes({ category: 'EVENT', id: 'avail', name: 'avail', type: 'AVAILABILITY' })}/></DataItems>` +
    `<Components><Controller${attributes({ id: 'cont', name: 'controller' })}><Components>` +
    paths.map(path).join('') +
    `</Components></Controller></Components></Device></Devices></MTConnectDevices>`
  );
}

/** `observed`: what the buffer holds of interest, oldest first; `next`: where the following sample goes on. */
export function streamsDocument(
  agent: Agent,
  at: string,
  buffer: { first: number; last: number; next: number },
  observed: readonly Observed[],
): string {
  const { device, paths } = agent;
  const numbers = { firstSequence: buffer.first, lastSequence: buffer.last, nextSequence: buffer.next };
  const own = observed.filter(({ item }) => item === 'Availability');
  const streams = [
    own.length > 0 ? componentStream('Device', device.id, device.name, own) : '',
    ...paths.map((name) => {
      const of = observed.filter(({ path, item }) => path === name && item !== 'Availability');
      return of.length > 0 ? componentStream('Path', `path-${name}`, name, of) : '';
    }),
  ];
  return (
    `<?xml version="1.0" encoding="UTF-8"?><MTConnectStreams${namespaces('Streams')}>` +
    header(agent, at, numbers) +
    `<Streams><DeviceStream${attributes({ name: device.name, uuid: device.uuid })}>${streams.join('')}` +
    `</DeviceStream></Streams></MTConnectStreams>`
  );
}

const ITEM_NAMES: Record<Observed['item'], string> = {
  Availability: 'avail',
  Program: 'program',
  Execution: 'execution',
  ControllerMode: 'mode',
  PartCount: 'parts',
  System: 'system',
};

function componentStream(component: string, id: string, name: string, of: readonly Observed[]): string {
  const dataItemId = (one: Observed): string =>
    one.item === 'Availability' ? 'avail' : `${one.path}-${ITEM_NAMES[one.item]}`;
  const common = (one: Observed): Record<string, string | number> => ({
    dataItemId: dataItemId(one),
    name: ITEM_NAMES[one.item],
    sequence: one.sequence,
    timestamp: one.at,
  });
  const events = of
    .filter(({ item }) => item !== 'System')
    .map((one) => `<${one.item}${attributes(common(one))}>${escaped(one.value)}</${one.item}>`);
  const conditions = of
    .filter(({ item }) => item === 'System')
    .map((one) => {
      const [level = 'Normal', ...said] = one.value.split(' ');
      return `<${level}${attributes({ ...common(one), type: 'SYSTEM' })}>${escaped(said.join(' '))}</${level}>`;
    });
  return (
    `<ComponentStream${attributes({ component, name, componentId: id })}>` +
    (events.length > 0 ? `<Events>${events.join('')}</Events>` : '') +
    (conditions.length > 0 ? `<Condition>${conditions.join('')}</Condition>` : '') +
    `</ComponentStream>`
  );
}

export const errorDocument = (agent: Agent, at: string, errorCode: string, message: string): string =>
  `<?xml version="1.0" encoding="UTF-8"?><MTConnectError${namespaces('Error')}>` +
  header(agent, at) +
  `<Errors><Error${attributes({ errorCode })}>${escaped(message)}</Error></Errors></MTConnectError>`;
