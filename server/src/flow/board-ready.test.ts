import { BoardReadyService } from './board-ready.service.ts';
import type { BoardService } from './board.service.ts';
import type { LiveService } from '../live/live.service.ts';

it('works the board out while a browser listens, once at a time, whatever becomes of it', async () => {
  const live = { isListenedTo: false };
  const asked: { answer: () => void; fail: (error: Error) => void }[] = [];
  const board = {
    board: () => new Promise<void>((answer, fail) => asked.push({ answer, fail })),
  };
  const ready = new BoardReadyService(board as unknown as BoardService, live as LiveService);
  await ready.keepReady();
  expect(asked).toHaveLength(0);
  live.isListenedTo = true;
  const first = ready.keepReady();
  await ready.keepReady();
  expect(asked).toHaveLength(1);
  asked[0]?.fail(new Error('no line'));
  await first;
  const second = ready.keepReady();
  expect(asked).toHaveLength(2);
  asked[1]?.answer();
  await second;
});
