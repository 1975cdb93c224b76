import { MINUTE_MS, refuse, type MachineView, type Refusal } from '@ample-crane/core';
import {
  BadRequestException,
  Injectable,
  Logger,
  NotFoundException,
  type OnApplicationBootstrap,
  type OnModuleDestroy,
} from '@nestjs/common';
import { DataSource, type EntityManager } from 'typeorm';
import { MachineCycleRow, MachineRow } from './rows.ts';
import { isOfTheValues } from '../database/failure.ts';
import type { FilingOutcome } from '../log/filing.ts';
import { piecesIn } from '../floor/racks-with.ts';
import { tellAll } from '../live/tell.ts';
import { otherLoadLay } from '../log/entries-in-force.ts';
import { ChangesService, type Turned } from '../setup/changes.service.ts';
import { FactoryClock } from '../setup/factory-clock.ts';
import { askOutside, hostsOf, mayAsk, OutsideTrouble } from './ask-outside.ts';
import { followPath, FRESH_PATH, type Cycle, type PathState } from './cycles.ts';
import { LOGGED_LATER_MS, LoadsService, type LoadEnd } from './loads.service.ts';
import { MTConnectTrouble, readDevices, readStreams, type Observation, type Streams } from './mtconnect.ts';

/** A machine is asked this often. */
const POLL_MS = 2000;
const ANSWER_WITHIN_MS = 2000;
/** A full answer of EVENTS_A_POLL events is a tenth of it. */
const LARGEST_ANSWER = 2_000_000;
/** Tables and heads of one machine. */
const MOST_PATHS = 50;
/** Events asked for at once; the agent keeps the rest for the next poll. */
const EVENTS_A_POLL = 500;
/** Events kept of a run of an agent, to know one that comes a second time. */
const EVENTS_KEPT = 5000;
/** A machine whose clock is this far from the factory's is not believed about times. */
const CLOCK_SLACK_MS = 2 * MINUTE_MS;
/** A cycle may begin so long before its load is logged: the operator starts first and scans then. */

export interface CycleView {
  id: string;
  path: string;
  program: string | null;
  startedMs: number;
  endedMs: number | null;
  /** Minutes it cut, without holds. */
  cutMinutes: number | null;
  heldMinutes: number;
  outcome: MachineCycleRow['outcome'];
  note: string;
  /** The load on that table it must have been, with its pieces; null: none is logged. */
  load: { code: string; pieces: number } | null;
}

export interface MachinePageView {
  code: string;
  name: string;
  station: string;
  seenMs: number | null;
  trouble: string | null;
  paths: { path: string; execution: string | null; program: string | null; sinceMs: number | null }[];
  /** Cycles nobody has settled, oldest first. */
  open: CycleView[];
  /** Mean cut minutes of the last complete cycles of each program. */
  real: { program: string; minutes: number; cycles: number }[];
}

/** What is kept of a machine between polls. */
interface Kept {
  paths: Record<string, PathState>;
  /** Faults that stand, by path. */
  faults: Record<string, string>;
}

/** A machine as somebody tells of it. */
export type MachineTold = Pick<MachineRow, 'code' | 'station' | 'name' | 'url'>;

/** Follows the machines that speak MTConnect, and turns what they tell into cycles an operator confirms. */
@Injectable()
export class MachinesService implements OnApplicationBootstrap, OnModuleDestroy {
  private readonly logger = new Logger(MachinesService.name);
  private timer: NodeJS.Timeout | undefined;
  /** By code: the machines that are being asked now. */
  private readonly asked = new Map<string, Promise<void>>();
  private readonly ending = new AbortController();

  constructor(
    private readonly source: DataSource,
    private readonly changes: ChangesService,
    private readonly clock: FactoryClock,
    private readonly loads: LoadsService,
  ) {}

  onApplicationBootstrap(): void {
    if (process.env.MACHINES === 'off') return;
    this.timer = setInterval(() => {
      void this.pollAll().catch((error: unknown) => {
        this.logger.warn(`machines: ${error instanceof Error ? error.message : String(error)}`);
      });
    }, POLL_MS);
    this.timer.unref();
  }

  async onModuleDestroy(): Promise<void> {
    clearInterval(this.timer);
    this.ending.abort();
    await Promise.all(this.asked.values());
  }

  /** Asks every machine, each alone: what one answers, or how slowly, is nothing to the others. */
  async pollAll(): Promise<void> {
    const machines = await this.source.getRepository(MachineRow).find();
    await Promise.all(machines.map((machine) => this.pollOnce(machine)));
  }

  /** A machine that is slow to answer is not asked again meanwhile. */
  private pollOnce(machine: MachineRow): Promise<void> {
    const underWay = this.asked.get(machine.code);
    if (underWay) return underWay;
    const asking = this.poll(machine)
      .catch((error: unknown) => {
        this.logger.warn(`${machine.code}: ${error instanceof Error ? error.message : String(error)}`);
      })
      .finally(() => this.asked.delete(machine.code));
    this.asked.set(machine.code, asking);
    return asking;
  }

  /**
   * Adds a machine, or tells where it is now; what it told before is kept.
   * @throws BadRequestException when the set-up (MACHINE_HOSTS) does not allow its address.
   */
  async set(by: string, machine: MachineTold): Promise<void> {
    await this.changes.change({ by, setting: 'machine', name: machine.code }, (manager) =>
      this.write(manager, machine),
    );
  }

  /** A machine the server was started with: nobody's change. @throws BadRequestException as set does. */
  async setUp(machine: MachineTold): Promise<void> {
    await this.source.transaction((manager) => this.write(manager, machine));
  }

  private async write(manager: EntityManager, { code, station, name, url }: MachineTold): Promise<Turned> {
    if (!mayAsk(url, allowedHosts()))
      throw new BadRequestException(
        'the set-up allows no machine at that address: name its host in MACHINE_HOSTS',
      );
    const [before] = await manager.query<object[]>(
      'SELECT station, name, url FROM machine WHERE code = $1 FOR UPDATE',
      [code],
    );
    await manager.query(
      `INSERT INTO machine (code, station, name, url) VALUES ($1, $2, $3, $4)
       ON CONFLICT (code) DO UPDATE SET station = $2, name = $3, url = $4`,
      [code, station, name, url],
    );
    return { before: before ?? null, after: { station, name, url } };
  }

  /** One look at one machine: what it said since the last one becomes cycles. Several servers may look; one writes. */
  async poll(machine: MachineRow): Promise<void> {
    let told: { streams: Streams; fresh: boolean; lost: string | null };
    try {
      told = await this.ask(machine);
    } catch (error) {
      if (this.ending.signal.aborted) return;
      return this.noteTrouble(machine, troubleWords(error));
    }
    try {
      await this.source.transaction((manager) => this.take(manager, machine, told));
    } catch (error) {
      if (error instanceof MTConnectTrouble) return this.noteTrouble(machine, troubleWords(error));
      if (!isOfTheValues(error)) throw error;
      await this.noteTrouble(machine, 'it tells what cannot be kept');
    }
  }

  private async noteTrouble(machine: MachineRow, words: string): Promise<void> {
    await this.source.query(
      `UPDATE machine SET trouble = $2 WHERE code = $1 AND trouble IS DISTINCT FROM $2`,
      [machine.code, words],
    );
  }

  /** @throws OutsideTrouble also for an address the set-up no longer allows. */
  private get(address: string): Promise<string> {
    if (!mayAsk(address, allowedHosts())) throw new OutsideTrouble('its host is not in MACHINE_HOSTS');
    return askOutside(address, {
      withinMs: ANSWER_WITHIN_MS,
      largest: LARGEST_ANSWER,
      signal: this.ending.signal,
    });
  }

  /** The events since the last look; from 'current' after a start, a restart of the agent or a gap. */
  private async ask(machine: MachineRow): Promise<{ streams: Streams; fresh: boolean; lost: string | null }> {
    const { url, instanceId, nextSequence } = machine;
    if (instanceId === null || nextSequence === null) {
      readDevices(await this.get(`${url}/probe`));
      return { streams: readStreams(await this.get(`${url}/current`)), fresh: true, lost: null };
    }
    try {
      const streams = readStreams(
        await this.get(`${url}/sample?from=${nextSequence}&count=${EVENTS_A_POLL}`),
      );
      if (String(streams.instanceId) === instanceId) return { streams, fresh: false, lost: null };
    } catch (error) {
      if (!(error instanceof MTConnectTrouble) || error.errorCode !== 'OUT_OF_RANGE') throw error;
    }
    const streams = readStreams(await this.get(`${url}/current`));
    const lost =
      String(streams.instanceId) === instanceId
        ? 'its buffer ran over: events between were lost'
        : 'its agent started anew: events between were lost';
    return { streams, fresh: true, lost };
  }

  private async take(
    manager: EntityManager,
    asked: MachineRow,
    { streams, fresh, lost }: { streams: Streams; fresh: boolean; lost: string | null },
  ): Promise<void> {
    const machine = await manager
      .getRepository(MachineRow)
      .findOne({ where: { code: asked.code }, lock: { mode: 'pessimistic_write' } });
    // Another server was quicker: what it took is not taken twice.
    if (machine?.nextSequence !== asked.nextSequence || machine.instanceId !== asked.instanceId) return;
    const offsetMs = (await this.clock.now()) - streams.creationMs;
    const wrongClock = Math.abs(offsetMs) > CLOCK_SLACK_MS;
    const told = streams.observations.map((one) => ({
      ...one,
      // Of a wrong clock only the distances are believed.
      atMs: wrongClock ? one.atMs + offsetMs : one.atMs,
    }));
    const news = await this.unseen(manager, machine.code, streams.instanceId, told);
    const kept = keptOf(machine);
    const cycles: Cycle[] = [];
    for (const path of new Set(
      told
        .filter((one) => one.item === 'Execution')
        .map((one) => one.component)
        .concat(Object.keys(kept.paths)),
    )) {
      const before = kept.paths[path] ?? FRESH_PATH;
      const own = news.filter((one) => one.component === path);
      const followed = fresh ? resumed(before, path, own, lost) : followPath(before, path, own);
      kept.paths[path] = followed.state;
      cycles.push(...followed.cycles);
    }
    if (Object.keys(kept.paths).length > MOST_PATHS)
      throw new MTConnectTrouble(`it names more than ${MOST_PATHS} paths`);
    for (const { component, item, value } of told) {
      if (item !== 'Condition') continue;
      if (value.startsWith('Fault')) kept.faults[component] = value.slice('Fault'.length).trim();
      else
        kept.faults = Object.fromEntries(Object.entries(kept.faults).filter(([path]) => path !== component));
    }
    for (const cycle of cycles) await this.keep(manager, machine.code, cycle);
    const faults = Object.entries(kept.faults).map(([path, words]) => `${path}: alarm ${words}`);
    const ahead = -offsetMs / MINUTE_MS;
    const trouble = [
      ...faults,
      wrongClock
        ? `its clock is ${Math.abs(ahead).toFixed(0)} min ${ahead > 0 ? 'ahead' : 'behind'}; only distances are believed`
        : '',
      lost ?? '',
    ].filter(Boolean);
    await manager.query(
      `UPDATE machine SET instance_id = $2, next_sequence = $3, seen_at = $4, trouble = $5, state = $6 WHERE code = $1`,
      [
        machine.code,
        streams.instanceId,
        streams.nextSequence,
        new Date(await this.clock.now()),
        trouble.length > 0 ? trouble.join('; ') : null,
        JSON.stringify(kept),
      ],
    );
    if (news.length > 0) {
      // Only what could still come a second time is kept.
      await manager.query(
        'DELETE FROM machine_event WHERE machine = $1 AND (instance_id <> $2 OR sequence < $3)',
        [machine.code, streams.instanceId, streams.lastSequence - EVENTS_KEPT],
      );
      await tellAll(manager, [machine.code]);
    }
  }

  /** Each event counts once: its run and sequence are the key. */
  private async unseen(
    manager: EntityManager,
    machine: string,
    instanceId: number,
    told: readonly Observation[],
  ): Promise<Observation[]> {
    if (told.length === 0) return [];
    const rows = await manager.query<{ sequence: string }[]>(
      `INSERT INTO machine_event (machine, instance_id, sequence, at, item, value)
       SELECT $1, $2, r.sequence, r.at, r.item, r.value
         FROM jsonb_to_recordset($3::jsonb) AS r(sequence bigint, at timestamptz, item text, value text)
       ON CONFLICT DO NOTHING RETURNING sequence`,
      [
        machine,
        instanceId,
        JSON.stringify(
          told.map(({ sequence, atMs, component, item, value }) => ({
            sequence,
            at: new Date(atMs).toISOString(),
            item: `${component}/${item}`,
            value,
          })),
        ),
      ],
    );
    const fresh = new Set(rows.map((row) => Number(row.sequence)));
    return told.filter(({ sequence }) => fresh.has(sequence));
  }

  private async keep(manager: EntityManager, machine: string, cycle: Cycle): Promise<void> {
    await manager.query(
      `INSERT INTO machine_cycle (machine, path, program, started_at, ended_at, held_minutes, outcome, note)
       VALUES ($1, $2, $3, $4, $5, $6, $7, $8)
       ON CONFLICT (machine, path, started_at) DO UPDATE
         SET program = $3, ended_at = $5, held_minutes = $6, outcome = $7, note = $8`,
      [
        machine,
        cycle.path,
        cycle.program,
        new Date(cycle.startedMs),
        cycle.endedMs === null ? null : new Date(cycle.endedMs),
        cycle.heldMinutes,
        cycle.outcome,
        cycle.note,
      ],
    );
  }

  // ---- what people see and say --------------------------------------------------------------------------------

  async machines(station?: string): Promise<MachinePageView[]> {
    const rows = await this.source
      .getRepository(MachineRow)
      .find({ where: station === undefined ? {} : { station }, order: { code: 'ASC' } });
    const seen: MachinePageView[] = [];
    for (const row of rows) {
      const kept = keptOf(row);
      seen.push({
        code: row.code,
        name: row.name,
        station: row.station,
        seenMs: row.seenAt?.getTime() ?? null,
        trouble: row.trouble,
        paths: Object.entries(kept.paths)
          .map(([path, { execution, program, cycle }]) => ({
            path,
            execution,
            program,
            sinceMs: cycle?.startedMs ?? null,
          }))
          .sort((a, b) => a.path.localeCompare(b.path)),
        open: await this.open(row.code),
        real: await this.real(row.code),
      });
    }
    return seen;
  }

  private async open(machine: string): Promise<CycleView[]> {
    const rows = await this.source
      .getRepository(MachineCycleRow)
      .createQueryBuilder('c')
      .where('c.machine = :machine AND c.settled IS NULL', { machine })
      .orderBy('c.startedAt')
      .take(50)
      .getMany();
    return Promise.all(rows.map((row) => this.seen(row)));
  }

  private async seen(row: MachineCycleRow): Promise<CycleView> {
    const [startedMs, endedMs] = [row.startedAt.getTime(), row.endedAt?.getTime() ?? null];
    return {
      id: row.id,
      path: row.path,
      program: row.program,
      startedMs,
      endedMs,
      heldMinutes: row.heldMinutes,
      cutMinutes: endedMs === null ? null : (endedMs - startedMs) / MINUTE_MS - row.heldMinutes,
      outcome: row.outcome,
      note: row.note,
      load: await this.loadOf(row),
    };
  }

  /**
   * The load that lies on the cycle's table, was started before it (or a little after), and has its program. A load that was
   * started later than the cycle has it only if no other lay on the table meanwhile: that one it was.
   */
  private async loadOf(row: MachineCycleRow): Promise<{ code: string; pieces: number } | null> {
    const [startedMs, endedMs] = [row.startedAt.getTime(), (row.endedAt ?? row.startedAt).getTime()];
    const lying = (await piecesIn(this.source.manager, [row.path])).filter(
      ({ piece: { load, sinceMs } }) => load?.program === row.program && sinceMs <= endedMs + LOGGED_LATER_MS,
    );
    const code = lying[0]?.piece.load?.code;
    if (code === undefined) return null;
    const before = lying.filter(({ piece }) => piece.sinceMs <= startedMs).length;
    const isAll =
      before === lying.length ||
      !(await otherLoadLay(this.source, { bed: row.path, load: code, atMs: startedMs }));
    const pieces = isAll ? lying.length : before;
    return pieces > 0 ? { code, pieces } : null;
  }

  private async real(machine: string): Promise<MachinePageView['real']> {
    return this.source.query<MachinePageView['real']>(
      `SELECT program, avg(minutes)::float AS minutes, count(*)::int AS cycles FROM (
         SELECT program, extract(epoch FROM ended_at - started_at) / 60 - held_minutes AS minutes,
                row_number() OVER (PARTITION BY program ORDER BY started_at DESC) AS back
           FROM machine_cycle WHERE machine = $1 AND outcome = 'complete' AND program IS NOT NULL) recent
        WHERE back <= 20 GROUP BY program ORDER BY program`,
      [machine],
    );
  }

  /** The operator confirms a cycle: its load is ended with these counts, or it was nothing and is dismissed. */
  async settle(
    id: string,
    told: { key: string; by: string; as: 'load' | 'nothing'; scrap: LoadEnd['scrap']; because?: string },
  ): Promise<FilingOutcome | { sentence: string } | Refusal> {
    const row = await this.source.getRepository(MachineCycleRow).findOneBy({ id });
    if (!row) throw new NotFoundException(`there is no cycle ${id}`);
    if (row.settled === 'dismissed')
      return refuse('key-used', `that cycle was dismissed already: end its load by hand`);
    if (told.as === 'nothing') {
      if (row.outcome === 'running') return refuse('wrong-mode', 'it still runs: wait for its end');
      await this.mark(id, 'dismissed', null);
      return { sentence: `the cycle on ${row.path} counts for nothing` };
    }
    const load = row.load ?? (await this.loadOf(row))?.code;
    if (load === undefined)
      return refuse(
        'nothing-here',
        `no load with ${row.program ?? 'its program'} lies on ${row.path} any more`,
      );
    const { key, by, scrap, because } = told;
    const outcome = await this.loads.end({ key, by, load, scrap, ...(because ? { because } : {}) });
    if ('refused' in outcome) return outcome;
    await this.mark(id, 'filed', load);
    return outcome;
  }

  private async mark(id: string, settled: 'filed' | 'dismissed', load: string | null): Promise<void> {
    await this.source.query('UPDATE machine_cycle SET settled = $2, load = $3 WHERE id = $1', [
      id,
      settled,
      load,
    ]);
  }

  /** What calls need to know of every machine. */
  async views(): Promise<MachineView[]> {
    const rows = await this.source.query<
      { code: string; name: string; station: string; trouble: string | null; open: number }[]
    >(
      `SELECT m.code, m.name, m.station, m.trouble,
              (SELECT count(*)::int FROM machine_cycle c
                WHERE c.machine = m.code AND c.settled IS NULL AND c.outcome <> 'running') AS open
         FROM machine m ORDER BY m.code`,
    );
    return rows;
  }
}

const keptOf = ({ state }: MachineRow): Kept => ({ paths: {}, faults: {}, ...(state as Partial<Kept>) });

/**
 * After a gap only the present is known. A cycle that still runs with the same program goes on as the one it was, so that
 * its pieces are counted once; one that is over meanwhile is lost: when and how it ended nobody heard.
 */
function resumed(
  before: PathState,
  path: string,
  now: readonly Observation[],
  lost: string | null,
): { state: PathState; cycles: Cycle[] } {
  const item = (name: string): string | undefined => now.findLast((one) => one.item === name)?.value;
  const execution = item('Execution') ?? before.execution;
  const program = item('Program') ?? before.program;
  const runs = execution === 'ACTIVE' || execution === 'FEED_HOLD' || execution === 'INTERRUPTED';
  if (!before.cycle) return followPath({ ...FRESH_PATH, program }, path, now);
  if (runs && program === before.cycle.program) {
    const cycle = { ...before.cycle, note: lost ?? before.cycle.note };
    return { state: { ...before, execution, program, cycle }, cycles: [cycle] };
  }
  const endMs = Math.max(before.cycle.startedMs, ...now.map((one) => one.atMs));
  const ended: Cycle = {
    ...before.cycle,
    endedMs: endMs,
    outcome: 'lost',
    note: lost ?? 'its end was not heard',
  };
  const next = followPath({ ...FRESH_PATH, program }, path, now);
  return { state: next.state, cycles: [ended, ...next.cycles] };
}

/** Hosts that machines may be on: those of MACHINE_HOSTS, and that of the machine the server is started with. */
function allowedHosts(): string[] {
  const { CNC_URL: own, MACHINE_HOSTS: list } = process.env;
  return [...hostsOf(list), ...(own && URL.canParse(own) ? [new URL(own).host] : [])];
}

function troubleWords(error: unknown): string {
  if (error instanceof MTConnectTrouble) return `it answers what cannot be read: ${error.message}`;
  return error instanceof OutsideTrouble ? error.message : 'it does not answer';
}
