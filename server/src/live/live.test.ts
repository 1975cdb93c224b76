import { LiveService } from './live.service.ts';
import { Works } from '../testing/works.ts';

/** Reads a stream of server-sent events until one of a type came. */
async function nextEvent(address: string, type: string, ready: () => void): Promise<string> {
  const response = await fetch(`${address}/api/events`);
  const reader = response.body?.getReader();
  if (!reader) throw new Error('the stream has no body');
  ready();
  let text = '';
  for (let part = await reader.read(); !part.done; part = await reader.read()) {
    text += new TextDecoder().decode(part.value);
    const found = new RegExp(`event: ${type}\\n(?:id: .*\\n)?data: (.*)`).exec(text);
    if (!found) continue;
    await reader.cancel();
    return found[1] ?? '';
  }
  throw new Error(`the stream ended without '${type}': ${text}`);
}

it('tells the browsers of one server what was filed at another', async () => {
  const here = await Works.open();
  const there = await Works.open(here.databaseUrl);
  try {
    const batch = await here.openRack('B');
    here.later(1);
    let listening: () => void = () => undefined;
    const ready = new Promise<void>((resolve) => (listening = resolve));
    const live = there.app.get(LiveService);
    expect(live.isListenedTo).toBe(false);
    const news = nextEvent(there.address, 'news', listening);
    await ready;
    expect([live.isListenedTo, here.app.get(LiveService).isListenedTo]).toEqual([true, false]);
    await new Promise((resolve) => setTimeout(resolve, 100));
    await here.said(`${batch} read 7.1 7.2 7.1`);
    expect(JSON.parse(await news)).toEqual({ batches: [batch], types: ['read'] });
    const { body } = await there.http.get(`/api/batches/${batch}`);
    expect((body as { seq: number }).seq).toBe(2);
    // The browser has gone away, which the server hears of a moment later.
    while (live.isListenedTo) await new Promise((resolve) => setTimeout(resolve, 20));
  } finally {
    await here.close();
    await there.close();
  }
}, 30_000);
