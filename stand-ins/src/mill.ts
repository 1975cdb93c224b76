import { readFileSync, writeFileSync } from 'node:fs';
import { createServer, type IncomingMessage, type ServerResponse } from 'node:http';
import { randomStream } from '@ample-crane/core';
import {
  devicesDocument,
  errorDocument,
  streamsDocument,
  type Agent,
  type Observed,
} from './mtconnect-documents.ts';

/**
 * A simulated mill of two tables with its MTConnect agent, and a gauge beside it:
 * `node dist/mill.js --port-file FILE --state-file FILE --paths table-b1,table-b2 [--server http://127.0.0.1:8630 --station body-mill]`
 * With a server given it cuts whatever load stands on its tables, as long as its program takes; CYCLE_S seconds when that is set. The state file is the
 * machine, which goes on cutting while its agent is away. GET /probe, /current, /sample?from=&count=; PUT /control with
 * {"path", "do": "start" | "hold" | "resume" | "end" | "stop" | "alarm" | "clear", "program"} or {"clockAheadMs"};
 * GET /gauge?nominal=&within= for one measured value.
 */
const option = (name: string): string | undefined =>
  process.argv.includes(name) ? process.argv[process.argv.indexOf(name) + 1] : undefined;
const needed = (name: string): string => {
  const value = option(name);
  if (value === undefined) throw new Error(`mill: ${name} is missing`);
  return value;
};

/** Small on purpose: a poller that sleeps too long must meet the gap. */
const BUFFER_SIZE = 512;
const MOST_COUNT = 500;
const TICK_MS = 1000;
/** Set, every cycle takes so long, whatever its program says. */
const allCyclesMs = process.env.CYCLE_S === undefined ? null : 1000 * Number(process.env.CYCLE_S);
/** Of a program nobody timed. */
const USUAL_CYCLE_MS = 150 * 60_000;
const faults = process.env.FAULTS !== '0';

type Execution = 'READY' | 'ACTIVE' | 'FEED_HOLD' | 'STOPPED';
interface Table {
  execution: Execution;
  program: string;
  parts: number;
  alarm: string;
  /** Cut so far, and how long the cycle takes, ms. */
  cutMs: number;
  cycleMs: number;
  /** Load it last cut, so that none is cut twice. */
  load: string;
}
interface Machine {
  runs: number;
  tables: Record<string, Table>;
}

const stateFile = needed('--state-file');
const paths = needed('--paths').split(',');
const random = randomStream(Date.now() % 2 ** 31);

function remembered(): Machine {
  try {
    return JSON.parse(readFileSync(stateFile, 'utf8')) as Machine;
  } catch {
    const idle: Table = {
      execution: 'READY',
      program: 'UNAVAILABLE',
      parts: 0,
      alarm: '',
      cutMs: 0,
      cycleMs: USUAL_CYCLE_MS,
      load: '',
    };
    return { runs: 0, tables: Object.fromEntries(paths.map((path) => [path, { ...idle }])) };
  }
}

const machine = remembered();
machine.runs += 1;
const agent: Agent = {
  // An agent's run: it must differ each time it starts.
  instanceId: Math.floor(Date.now() / 1000) * 100 + (machine.runs % 100),
  bufferSize: BUFFER_SIZE,
  device: { id: 'mill', name: needed('--paths').replaceAll(',', '-'), uuid: `stand-in-${paths.join('-')}` },
  paths,
};
let buffer: Observed[] = [];
let sequence = 0;
let offsetMs = 0;
const at = (): string => new Date(Date.now() + offsetMs).toISOString();
const keep = (): void => writeFileSync(stateFile, JSON.stringify(machine));

function observe(path: string, item: Observed['item'], value: string): void {
  sequence += 1;
  buffer.push({ sequence, at: at(), path, item, value });
  if (buffer.length > BUFFER_SIZE) buffer = buffer.slice(-BUFFER_SIZE);
  keep();
}

function change(path: string, to: Partial<Table>): void {
  const table = machine.tables[path];
  if (!table) return;
  const before = { ...table };
  Object.assign(table, to);
  if (table.program !== before.program) observe(path, 'Program', table.program);
  if (table.execution !== before.execution) observe(path, 'Execution', table.execution);
  if (table.parts !== before.parts) observe(path, 'PartCount', String(table.parts));
  if (table.alarm !== before.alarm) observe(path, 'System', table.alarm ? `Fault ${table.alarm}` : 'Normal');
}

function control({
  path = '',
  do: what = '',
  program,
}: {
  path?: string;
  do?: string;
  program?: string;
}): boolean {
  const table = machine.tables[path];
  if (!table) return false;
  switch (what) {
    case 'start':
      change(path, { program: program ?? table.program });
      change(path, { execution: 'ACTIVE', cutMs: 0 });
      return true;
    case 'hold':
      change(path, { execution: 'FEED_HOLD' });
      return true;
    case 'resume':
      change(path, { execution: 'ACTIVE' });
      return true;
    case 'end':
      change(path, { execution: 'READY', parts: table.parts + 1 });
      return true;
    case 'stop':
      change(path, { execution: 'STOPPED' });
      return true;
    case 'alarm':
      change(path, { alarm: program ?? 'SPINDLE OVERLOAD', execution: 'STOPPED' });
      return true;
    case 'clear':
      change(path, { alarm: '', execution: 'READY' });
      return true;
    default:
      return false;
  }
}

// ---- the agent ------------------------------------------------------------------------------------------------------

const xml = (response: ServerResponse, text: string, status = 200): void => {
  response.writeHead(status, { 'content-type': 'text/xml; charset=utf-8' }).end(text);
};
const json = (response: ServerResponse, value: object, status = 200): void => {
  response.writeHead(status, { 'content-type': 'application/json' }).end(JSON.stringify(value));
};

function current(): Observed[] {
  const newest = new Map<string, Observed>();
  for (const one of buffer) newest.set(`${one.path} ${one.item}`, one);
  return [...newest.values()].sort((a, b) => a.sequence - b.sequence);
}

function sample(response: ServerResponse, query: URLSearchParams): void {
  const first = buffer[0]?.sequence ?? 1;
  const from = Number(query.get('from') ?? first);
  const count = Number(query.get('count') ?? 100);
  if (!Number.isInteger(from) || !Number.isInteger(count) || count < 1 || count > MOST_COUNT)
    return xml(
      response,
      errorDocument(agent, at(), 'INVALID_REQUEST', 'from and count must be whole numbers'),
      400,
    );
  if (from < first || from > sequence + 1)
    return xml(
      response,
      errorDocument(agent, at(), 'OUT_OF_RANGE', `'from' must be between ${first} and ${sequence + 1}`),
      404,
    );
  const found = buffer.filter((one) => one.sequence >= from).slice(0, count);
  const next = (found.at(-1)?.sequence ?? from - 1) + 1;
  xml(response, streamsDocument(agent, at(), { first, last: sequence, next }, found));
}

async function bodyOf(request: IncomingMessage): Promise<Record<string, string>> {
  let text = '';
  for await (const chunk of request) text += String(chunk);
  return JSON.parse(text) as Record<string, string>;
}

async function answer(request: IncomingMessage, response: ServerResponse): Promise<void> {
  const { pathname, searchParams } = new URL(request.url ?? '/', 'http://stand-in');
  if (pathname === '/probe') return xml(response, devicesDocument(agent, at()));
  if (pathname === '/sample') return sample(response, searchParams);
  if (pathname === '/current') {
    const first = buffer[0]?.sequence ?? 1;
    return xml(
      response,
      streamsDocument(agent, at(), { first, last: sequence, next: sequence + 1 }, current()),
    );
  }
  if (pathname === '/gauge') {
    const [nominal, within] = [Number(searchParams.get('nominal')), Number(searchParams.get('within'))];
    if (!(nominal > 0 && within > 0)) return json(response, { error: 'nominal and within are needed' }, 400);
    const value = random.normal(nominal, within / 4);
    return json(response, { value: Math.round(100 * value) / 100, at: at() });
  }
  if (pathname === '/control' && request.method === 'PUT') {
    const told = await bodyOf(request);
    if ('clockAheadMs' in told) offsetMs += Number(told.clockAheadMs);
    else if (!control(told)) return json(response, { error: 'no such path or action' }, 400);
    return json(response, { sequence });
  }
  xml(response, errorDocument(agent, at(), 'UNSUPPORTED', `no such request: ${pathname}`), 404);
}

// ---- the machine cuts what lies on its tables -------------------------------------------------------------------------

interface MillAnswer {
  tables: {
    code: string;
    places: number;
    load: { code: string; program: string; firstPiece: boolean; parts: { pieces: number[] }[] } | null;
  }[];
  question: { programs: { name: string; cycleMinutes: number }[] };
}

/** A first piece alone takes its share of the cycle. */
function cycleOf({ question }: MillAnswer, table: MillAnswer['tables'][number]): number {
  if (allCyclesMs !== null) return allCyclesMs;
  const program = question.programs.find(({ name }) => name === table.load?.program);
  const whole = program ? program.cycleMinutes * 60_000 : USUAL_CYCLE_MS;
  const pieces = table.load?.parts.reduce((sum, part) => sum + part.pieces.length, 0);
  return table.load?.firstPiece && pieces === 1 ? whole / table.places : whole;
}

async function follow(server: string, station: string): Promise<void> {
  const answered = await fetch(`${server}/api/mill/${station}`).catch(() => null);
  if (!answered?.ok) return;
  const mill = (await answered.json()) as MillAnswer;
  for (const lying of mill.tables) {
    const { code, load } = lying;
    const table = machine.tables[code];
    if (!table || !load || load.code === table.load || table.execution === 'ACTIVE') continue;
    table.load = load.code;
    table.cycleMs = cycleOf(mill, lying);
    control({ path: code, do: 'start', program: load.program });
  }
}

/** One feed hold in so many ticks, and one alarm in many more. */
const HOLD_ONE_IN = 120;
const ALARM_ONE_IN = 900;

function tick(): void {
  for (const path of paths) {
    const table = machine.tables[path];
    if (!table) continue;
    if (table.execution === 'ACTIVE') {
      table.cutMs += TICK_MS;
      if (table.cutMs >= table.cycleMs) control({ path, do: 'end' });
      else if (faults && random.chance(1 / ALARM_ONE_IN))
        control({ path, do: 'alarm', program: 'VACUUM LOW' });
      else if (faults && random.chance(1 / HOLD_ONE_IN)) control({ path, do: 'hold' });
    } else if (table.execution === 'FEED_HOLD' && random.chance(0.1)) control({ path, do: 'resume' });
    else if (table.execution === 'STOPPED' && random.chance(0.02)) control({ path, do: 'clear' });
  }
  keep();
}

const listener = createServer((request, response) => {
  answer(request, response).catch((error: unknown) => json(response, { error: String(error) }, 500));
});
listener.listen(Number(option('--port') ?? 0), '127.0.0.1', () => {
  const address = listener.address();
  if (typeof address === 'object' && address) writeFileSync(needed('--port-file'), String(address.port));
});
const server = option('--server');
if (server !== undefined) {
  const clock = await waitFor(`${server}/api/clock`);
  offsetMs = clock.nowMs - Date.now();
}
observe('', 'Availability', 'AVAILABLE');
for (const path of paths) {
  const table = machine.tables[path];
  if (!table) continue;
  observe(path, 'Program', table.program);
  observe(path, 'ControllerMode', 'AUTOMATIC');
  observe(path, 'PartCount', String(table.parts));
  observe(path, 'System', table.alarm ? `Fault ${table.alarm}` : 'Normal');
  observe(path, 'Execution', table.execution);
}

if (server !== undefined) {
  const station = needed('--station');
  setInterval(() => void follow(server, station), 3 * TICK_MS);
  setInterval(tick, TICK_MS);
}

/** What the server answers, however long it takes to start. */
async function waitFor(url: string): Promise<{ nowMs: number }> {
  for (;;) {
    const response = await fetch(url).catch(() => null);
    if (response?.ok) return (await response.json()) as { nowMs: number };
    await new Promise((resolve) => setTimeout(resolve, TICK_MS));
  }
}
