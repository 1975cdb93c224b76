import { SharedLine, type Line, type Word } from './shared-line.ts';

/** A line that does what a test tells it. */
class FakeLine extends EventTarget {
  readyState = 0;
  close = jest.fn();
  say(type: string, data?: object): void {
    this.dispatchEvent(new MessageEvent(type, { data: JSON.stringify(data) }));
  }
  /** The server refused it: it does not try again by itself. */
  refuse(): void {
    this.readyState = 2;
    this.say('error');
  }
}

let lines: FakeLine[];
let shared: SharedLine;
beforeEach(() => {
  jest.useFakeTimers();
  lines = [];
  shared = new SharedLine(() => {
    const line = new FakeLine();
    lines.push(line);
    return line as unknown as Line;
  });
});
afterEach(() => jest.useRealTimers());

const follower = (): { heard: Word[]; hear: (word: Word) => void } => {
  const heard: Word[] = [];
  return { heard, hear: (word) => void heard.push(word) };
};
const NEWS: Word = { is: 'news', batches: ['B-1'] };

it('is one line for all, who hear the same; who comes later hears at once that it is open', () => {
  const [first, second] = [follower(), follower()];
  shared.follow(first.hear);
  lines[0]?.say('open');
  shared.follow(second.hear);
  lines[0]?.say('news', { batches: ['B-1'] });
  expect(first.heard).toEqual([{ is: 'open' }, NEWS]);
  expect(second.heard).toEqual([{ is: 'open' }, NEWS]);
  expect(lines).toHaveLength(1);
});

it('is there while anybody follows, and is opened anew for who comes after that', () => {
  const [first, second] = [follower(), follower()];
  shared.follow(first.hear);
  shared.follow(second.hear);
  lines[0]?.say('open');
  shared.leave(first.hear);
  expect(lines[0]?.close).not.toHaveBeenCalled();
  shared.leave(second.hear);
  expect(lines[0]?.close).toHaveBeenCalledTimes(1);
  shared.follow(first.hear);
  expect(lines).toHaveLength(2);
  // Not open yet: it is not told so from before.
  expect(first.heard).toEqual([{ is: 'open' }]);
});

it('tells that it is down; what the browser does not try again it tries again itself, for as long as anybody follows', () => {
  const one = follower();
  shared.follow(one.hear);
  lines[0]?.say('open');
  lines[0]?.say('error');
  jest.advanceTimersByTime(60_000);
  expect(lines).toHaveLength(1);
  lines[0]?.refuse();
  expect(one.heard.at(-1)).toEqual({ is: 'down' });
  jest.advanceTimersByTime(3000);
  expect(lines).toHaveLength(2);
  lines[1]?.refuse();
  shared.leave(one.hear);
  jest.advanceTimersByTime(60_000);
  expect(lines).toHaveLength(2);
});
