import { spawn, type ChildProcess } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { createServer, type Server, type ServerResponse } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { DataSource } from 'typeorm';
import { MachineRow } from './rows.ts';
import { Works } from '../testing/works.ts';
import { MachinesService } from './machines.service.ts';

/** The simulated mill as its own process, so that it can be killed like a real one. */
class Mill {
  private process: ChildProcess | undefined;
  private readonly folder = mkdtempSync(join(tmpdir(), 'mill-'));
  url = '';

  async start(port = 0): Promise<void> {
    const portFile = join(this.folder, 'port');
    rmSync(portFile, { force: true });
    const files = ['--port-file', portFile, '--state-file', join(this.folder, 'state.json')];
    const program = join(__dirname, '../../../stand-ins/dist/mill.js');
    this.process = spawn(
      process.execPath,
      [program, ...files, '--paths', 'table-b1,table-b2', '--port', String(port)],
      {
        env: { ...process.env, FAULTS: '0' },
        stdio: 'inherit',
      },
    );
    for (let i = 0; i < 200 && !existsSync(portFile); i += 1) await sleep(50);
    await sleep(50);
    this.url = `http://127.0.0.1:${readFileSync(portFile, 'utf8')}`;
  }

  get port(): number {
    return Number(new URL(this.url).port);
  }

  async kill(): Promise<void> {
    const { process: child } = this;
    if (!child) return;
    const gone = new Promise((resolve) => child.once('exit', resolve));
    child.kill('SIGKILL');
    await gone;
    this.process = undefined;
  }

  async tell(told: object): Promise<void> {
    const response = await fetch(`${this.url}/control`, { method: 'PUT', body: JSON.stringify(told) });
    if (!response.ok) throw new Error(`the mill answered ${response.status}`);
  }
}

const sleep = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));
const PROGRAM = 'halyard-b/mill r1';

interface Seen {
  trouble: string | null;
  seenMs: number | null;
  paths: { path: string; execution: string | null; program: string | null }[];
  open: {
    id: string;
    path: string;
    outcome: string;
    note: string;
    heldMinutes: number;
    load: { code: string; pieces: number } | null;
  }[];
  real: { program: string; cycles: number }[];
}

let works: Works;
const mill = new Mill();

const signed = () => ({ key: works.key(), by: 'ostrander' });
beforeAll(async () => {
  process.env.MACHINES = 'off';
  process.env.MACHINE_HOSTS = '127.0.0.1';
  works = await Works.open();
  // The machine's clock is the real one; so is the factory's in this test.
  jest.restoreAllMocks();
  await works.app.get(DataSource).query('UPDATE factory SET clock_offset_ms = 0');
  const { FactoryClock } = await import('../setup/factory-clock.ts');
  works.app.get(FactoryClock).forget();
  works.time.nowMs = Date.now();
  await mill.start();
  const set = await works.http
    .put('/api/machines')
    .send({ ...signed(), code: 'mill-b', station: 'body-mill', name: 'Body mill', url: mill.url });
  expect(set.status).toBe(200);
});
afterAll(async () => {
  await mill.kill();
  await works.close();
});

const poll = async (): Promise<void> => {
  const machine = await works.app
    .get(DataSource)
    .getRepository(MachineRow)
    .findOneByOrFail({ code: 'mill-b' });
  await works.app.get(MachinesService).poll(machine);
};
const seen = async (): Promise<Seen> => {
  const { body } = (await works.http.get('/api/machines')) as { body: Seen[] };
  if (!body[0]) throw new Error('there is no machine');
  return body[0];
};
const closed = async () => (await seen()).open.filter(({ outcome }) => outcome !== 'running');
const settle = (id: string, as: 'load' | 'nothing') =>
  works.http
    .post(`/api/machines/cycles/${id}/settle`)
    .send({ key: works.key(), by: 'dorrit', as, scrap: [] }) as unknown as Promise<{
    status: number;
    body: { refused?: string; sentence?: string };
  }>;

/** A load of eight on a table that was proved. */
async function loadOn(table: string): Promise<string> {
  const batch = await works.openRack('B', 8, 'Halyard');
  await works.said(`${batch} end because dry by the other meter`);
  const started = (await works.http
    .post('/api/loads')
    .send({ key: works.key(), by: 'dorrit', table, parts: [{ batch }], because: 'proved' })) as {
    status: number;
  };
  expect(started.status).toBe(200);
  return batch;
}
const standing = async (batch: string): Promise<string[]> => {
  const { body } = (await works.http.get(`/api/batches/${batch}`)) as {
    body: { state: { pieces: { operation: string; standing: string }[] } };
  };
  return [...new Set(body.state.pieces.map((piece) => `${piece.operation} ${piece.standing}`))];
};

describe('a machine over MTConnect', () => {
  it('turns a cycle into a proposal, and the confirmed proposal into a load that is done', async () => {
    const batch = await loadOn('table-b1');
    await poll();
    await mill.tell({ path: 'table-b1', do: 'start', program: PROGRAM });
    await poll();
    expect((await seen()).paths).toContainEqual(
      expect.objectContaining({ path: 'table-b1', execution: 'ACTIVE', program: PROGRAM }),
    );
    await mill.tell({ path: 'table-b1', do: 'hold' });
    await sleep(60);
    await mill.tell({ path: 'table-b1', do: 'resume' });
    await mill.tell({ path: 'table-b1', do: 'end' });
    await poll();
    const [cycle, ...more] = await closed();
    expect(more).toEqual([]);
    expect(cycle).toMatchObject({ path: 'table-b1', outcome: 'complete', load: { pieces: 8 } });
    expect(cycle?.heldMinutes).toBeGreaterThan(0);
    expect(await standing(batch)).toEqual(['mill inHand']);
    await works.measureLoads();
    expect((await settle(cycle?.id ?? '', 'load')).status).toBe(200);
    expect(await standing(batch)).toEqual(['rest onHold']);
    // Said twice, it is not counted twice.
    const again = await settle(cycle?.id ?? '', 'load');
    expect(again.body.refused).toMatch(/off its table already/);
    expect((await seen()).real).toEqual([expect.objectContaining({ program: PROGRAM, cycles: 1 })]);
  });

  it('gives no cycle of an earlier load to the one that lies there now', async () => {
    const earlier = await loadOn('table-b1');
    await mill.tell({ path: 'table-b1', do: 'start', program: PROGRAM });
    await poll();
    await works.said(`${earlier} done because it was taken off by hand`);
    await mill.tell({ path: 'table-b1', do: 'end' });
    await poll();
    await loadOn('table-b1');
    const [old] = await closed();
    expect(old).toMatchObject({ path: 'table-b1', outcome: 'complete', load: null });
    await mill.tell({ path: 'table-b1', do: 'start', program: PROGRAM });
    await mill.tell({ path: 'table-b1', do: 'end' });
    await poll();
    const [, own] = await closed();
    expect(own).toMatchObject({ path: 'table-b1', load: { pieces: 8 } });
    expect((await settle(old?.id ?? '', 'nothing')).status).toBe(200);
    await works.measureLoads();
    expect((await settle(own?.id ?? '', 'load')).status).toBe(200);
  });

  it('killed and started again in the middle of a cycle counts no piece twice', async () => {
    const batch = await loadOn('table-b2');
    await mill.tell({ path: 'table-b2', do: 'start', program: PROGRAM });
    await poll();
    const { port } = mill;
    await mill.kill();
    await poll();
    expect((await seen()).trouble).toBe('it does not answer');
    await mill.start(port);
    await poll();
    const after = await seen();
    expect(after.trouble).toMatch(/its agent started anew/);
    expect(after.open.filter(({ path }) => path === 'table-b2')).toEqual([
      expect.objectContaining({ outcome: 'running', note: expect.stringMatching(/started anew/) as string }),
    ]);
    await mill.tell({ path: 'table-b2', do: 'end' });
    await poll();
    await poll();
    const cycles = await closed();
    expect(cycles).toHaveLength(1);
    await works.measureLoads();
    expect((await settle(cycles[0]?.id ?? '', 'load')).status).toBe(200);
    expect(await standing(batch)).toEqual(['rest onHold']);
    expect(await closed()).toEqual([]);
    expect((await seen()).trouble).toBeNull();
  });

  it('whose agent lost events says so and goes on from the present', async () => {
    await mill.tell({ path: 'table-b1', do: 'start', program: PROGRAM });
    await poll();
    // The agent keeps 512 events: more than that between two looks are a gap.
    for (let i = 0; i < 270; i += 1) {
      await mill.tell({ path: 'table-b2', do: 'start', program: `trial-${i % 2}` });
      await mill.tell({ path: 'table-b2', do: 'stop' });
    }
    await mill.tell({ path: 'table-b1', do: 'stop' });
    await poll();
    expect((await seen()).trouble).toMatch(/buffer ran over/);
    const [cycle] = (await closed()).filter(({ path }) => path === 'table-b1');
    expect(cycle).toMatchObject({ outcome: 'lost', load: null });
    const refused = await settle(cycle?.id ?? '', 'load');
    expect(refused.body.refused).toMatch(/no load with .* lies on table-b1/);
    expect((await settle(cycle?.id ?? '', 'nothing')).body.sentence).toMatch(/counts for nothing/);
    expect((await settle(cycle?.id ?? '', 'load')).body.refused).toMatch(/dismissed already/);
  }, 30_000);

  it('tells its alarm until it is cleared, and a cycle broken off by it', async () => {
    await mill.tell({ path: 'table-b1', do: 'start', program: PROGRAM });
    await mill.tell({ path: 'table-b1', do: 'alarm', program: 'VACUUM LOW' });
    await poll();
    expect((await seen()).trouble).toMatch(/table-b1: alarm VACUUM LOW/);
    expect((await closed()).at(-1)).toMatchObject({ path: 'table-b1', outcome: 'broken off' });
    const board = (await works.http.get('/api/board')) as {
      body: { calls: { kind: string; title: string }[] };
    };
    expect(board.body.calls.filter(({ kind }) => kind === 'machine').map(({ title }) => title)).toContain(
      'Body mill cannot be trusted now',
    );
    await mill.tell({ path: 'table-b1', do: 'clear' });
    await poll();
    expect((await seen()).trouble).toBeNull();
  });

  it('whose clock jumped is believed about distances only', async () => {
    await mill.tell({ clockAheadMs: 3 * 3_600_000 });
    await mill.tell({ path: 'table-b1', do: 'start', program: PROGRAM });
    await poll();
    const { trouble, open } = await seen();
    expect(trouble).toMatch(/its clock is 180 min ahead; only distances are believed/);
    const running = open.find(({ outcome }) => outcome === 'running') as unknown as { startedMs: number };
    expect(Math.abs(running.startedMs - Date.now())).toBeLessThan(60_000);
    await mill.tell({ clockAheadMs: -3 * 3_600_000 });
    await mill.tell({ path: 'table-b1', do: 'end' });
    await poll();
    expect((await seen()).trouble).toBeNull();
  });

  it('that answers something else is said to, and nothing breaks', async () => {
    const liar: Server = createServer((_, response) => response.end('<html>hello</html>'));
    await new Promise<void>((resolve) => liar.listen(0, '127.0.0.1', resolve));
    const address = liar.address();
    const port = typeof address === 'object' && address ? address.port : 0;
    await works.app
      .get(MachinesService)
      .setUp({ code: 'odd', station: 'neck-mill', name: 'Odd', url: `http://127.0.0.1:${port}` });
    await works.app.get(MachinesService).pollAll();
    const { body } = (await works.http.get('/api/machines')) as { body: (Seen & { code: string })[] };
    expect(body.find(({ code }) => code === 'odd')?.trouble).toBe(
      'it answers what cannot be read: it is no MTConnectDevices document',
    );
    liar.close();
    await works.app.get(DataSource).query(`DELETE FROM machine WHERE code = 'odd'`);
    const bad = { ...signed(), code: 'x', station: 'body-mill', name: 'X', url: 'file:///etc/passwd' };
    expect((await works.http.put('/api/machines').send(bad)).status).toBe(400);
    expect(
      (
        await works.http
          .put('/api/machines')
          .send({ ...bad, ...signed(), url: 'http://127.0.0.1:1', station: 'attic' })
      ).status,
    ).toBe(404);
  });

  describe('hostile (12.7)', () => {
    const HUGE_IN_SMALL = gzipSync(Buffer.alloc(200_000_000, 32));
    let answer: (response: ServerResponse) => void;
    let hostile: Server;
    let at = '';
    const troubleOf = async (code: string): Promise<string | null | undefined> => {
      const { body } = (await works.http.get('/api/machines')) as { body: (Seen & { code: string })[] };
      return body.find((machine) => machine.code === code)?.trouble;
    };
    const look = (): Promise<void> => works.app.get(MachinesService).pollAll();

    beforeAll(async () => {
      hostile = createServer((_, response) => answer(response));
      await new Promise<void>((resolve) => hostile.listen(0, '127.0.0.1', resolve));
      const address = hostile.address();
      at = `http://127.0.0.1:${typeof address === 'object' && address ? address.port : 0}`;
      await works.app
        .get(MachinesService)
        .setUp({ code: 'hostile', station: 'neck-mill', name: 'Hostile', url: at });
    });
    afterAll(() => hostile.close());

    const streams = (event: string, header = ''): string =>
      `<MTConnectStreams><Header instanceId="1" firstSequence="1" lastSequence="2" nextSequence="3" creationTime="${new Date().toISOString()}" ${header}/>
       <Streams><DeviceStream name="x"><ComponentStream name="p">${event}</ComponentStream></DeviceStream></Streams></MTConnectStreams>`;
    const devices =
      '<MTConnectDevices><Header instanceId="1" bufferSize="9"/><Devices><Device name="x" uuid="x" id="x"/></Devices></MTConnectDevices>';

    it.each<[string, string | RegExp, (response: ServerResponse) => void]>([
      [
        'a small answer that inflates to a huge one',
        'it answers with more than 2 MB',
        (response) => {
          response.setHeader('content-encoding', 'gzip');
          response.end(HUGE_IN_SMALL);
        },
      ],
      [
        'an answer that never ends',
        /takes longer than 2 s/,
        (response) => {
          response.write('<MTConnectStreams>');
        },
      ],
      ['no answer at all', 'it does not answer', () => undefined],
      [
        'a way to somewhere else',
        'it does not answer',
        (response) => response.writeHead(302, { location: mill.url }).end(),
      ],
      [
        'ten thousand tags in each other',
        /cannot be read: it is no XML/,
        (response) => response.end('<a>'.repeat(10_000)),
      ],
      [
        'an error with words of its own',
        'it answers what cannot be read: the agent says that something is wrong',
        (response) =>
          response.end(
            '<MTConnectError><Errors><Error errorCode="&lt;script&gt;">&lt;script&gt;alert(1)&lt;/script&gt;</Error></Errors></MTConnectError>',
          ),
      ],
    ])(
      '%s is its own trouble',
      async (_what, words, hostileAnswer) => {
        answer = hostileAnswer;
        await look();
        expect(await troubleOf('hostile')).toEqual(
          words instanceof RegExp ? expect.stringMatching(words) : words,
        );
        // The mill beside it is heard as before.
        expect(await troubleOf('mill-b')).toBeNull();
      },
      20_000,
    );

    it.each([
      [
        'a year no clock shows',
        '<Events><Execution timestamp="+275760-09-13T00:00:00Z" sequence="1">ACTIVE</Execution></Events>',
        /a timestamp is no time/,
      ],
      [
        'a thousand paths',
        Array.from(
          { length: 60 },
          (_, i) =>
            `</ComponentStream><ComponentStream name="q${i}"><Events><Execution timestamp="2026-11-24T10:00:00Z" sequence="${i + 1}">ACTIVE</Execution></Events>`,
        ).join(''),
        /more than 50 paths/,
      ],
    ])('%s is its own trouble', async (_what, events, words) => {
      let asked = 0;
      answer = (response) => response.end((asked += 1) === 1 ? devices : streams(events));
      await look();
      expect(await troubleOf('hostile')).toMatch(words);
      expect(await troubleOf('mill-b')).toBeNull();
    });

    it('NULs in what it tells are left out', async () => {
      let asked = 0;
      answer = (response) =>
        response.end(
          (asked += 1) === 1
            ? devices
            : streams(
                '<Events><Program timestamp="2026-11-24T10:00:00Z" sequence="1">a\u0000b</Program></Events>',
              ),
        );
      await look();
      expect(await troubleOf('hostile')).toBeNull();
    });

    it('is asked nothing at an address the set-up does not name', async () => {
      for (const url of ['http://192.0.2.1:5000', 'http://127.0.0.1.example:80', 'http://a:b@127.0.0.1:80']) {
        const asked = await works.http
          .put('/api/machines')
          .send({ ...signed(), code: 'far', station: 'body-mill', name: 'Far', url });
        expect([url, asked.status]).toEqual([url, 400]);
        expect((asked.body as { message: string }).message).toMatch(/MACHINE_HOSTS/);
      }
    });
  });
});
