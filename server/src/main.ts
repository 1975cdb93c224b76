import 'reflect-metadata';
import { fileURLToPath } from 'node:url';
import { createApp, tlsFiles } from './app.ts';
import { remakeStatesOnce } from './commands/remake-states.ts';
import { databaseAddress, migrate } from './database/data-source.ts';
import { whenReached } from './database/when-reached.ts';
import { DemoService } from './demo/demo.service.ts';
import { BoardService } from './flow/board.service.ts';
import { FloorService } from './flow/floor.service.ts';
import { floorLog } from './http/floor-log.ts';
import { MachinesService } from './machining/machines.service.ts';

/** 0: any that is free; the log says which. */
const port = Number(process.env.PORT ?? 8630);
const host = process.env.HOST ?? '127.0.0.1';
/** How often connections that have gone quiet are closed while the server shuts down. */
const CLOSE_IDLE_MS = 50;

const webFolder = process.env.WEB_FOLDER ?? fileURLToPath(new URL('../../web/dist', import.meta.url));
const app = await createApp({ webFolder });
const server = app.getHttpServer();
// Streams to browsers end first, then what was accepted is finished; a connection gone quiet must not hold that up.
for (const signal of ['SIGTERM', 'SIGINT'] as const) {
  process.once(signal, () => {
    floorLog.info({ signal }, 'finishing what was accepted');
    setInterval(() => server.closeIdleConnections(), CLOSE_IDLE_MS).unref();
  });
}

const away = (why: string): void => floorLog.warn({ why }, 'the database does not answer yet: trying again');
const applied = await whenReached(() => migrate(databaseAddress()), away);
if (applied.length > 0) floorLog.info({ applied }, 'the database was brought to this version');
await whenReached(() => remakeStatesOnce(app, (words) => floorLog.info({ words }, 'states')), away);
const demo = app.get(DemoService);
if (process.env.DEMO === 'if-empty' && (await whenReached(() => demo.isWanted(), away))) {
  await demo.load((done) => {
    floorLog.info({ done }, 'demo data');
    if (process.env.SHOW_PROGRESS) process.stdout.write(`  demo data: ${done}\n`);
  });
}
// The body mill's agent; other machines are told over the API.
if (process.env.CNC_URL) {
  const mill = { code: 'mill-b', station: 'body-mill', name: 'Body mill', url: process.env.CNC_URL };
  await whenReached(() => app.get(MachinesService).setUp(mill), away);
}
// Judged before anybody asks: whoever opens the first page does not wait for it.
await Promise.all([app.get(FloorService).floor(), app.get(BoardService).board()]).catch((error: unknown) =>
  floorLog.warn({ err: error }, 'the floor could not be judged yet'),
);
await app.listen(port, host);
const bound = server.address();
floorLog.info(
  {
    address: `${tlsFiles() ? 'https' : 'http'}://${host}:${typeof bound === 'object' ? bound?.port : port}`,
    residentMb: Math.round(process.memoryUsage.rss() / 1e6),
  },
  'Ample Crane is ready',
);
