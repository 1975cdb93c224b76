import type { SingleCall } from './call.ts';
import { decisions } from './decisions.ts';
import { woodCalls } from './missing-calls.ts';

const over = (batch: string, cost: number, extra: Partial<SingleCall> = {}): SingleCall => ({
  id: `hold-over:${batch}`,
  kind: 'hold-over',
  subject: batch,
  cause: 'Cure',
  pieces: 12,
  title: `${batch} may leave Cure`,
  detail: '12 pieces. It has waited 3 h since.',
  cost,
  actions: [{ label: 'End hold, on to Buff', line: `${batch} end` }],
  evidence: `/batch/${batch}`,
  ...extra,
});
const late = (batch: string, where: string, cost: number): SingleCall => ({
  ...over(batch, cost, { kind: 'late', cause: where, title: `${batch} will be 5 days late` }),
  id: `late:${batch}`,
  actions: [{ label: 'See its route', href: `/batch/${batch}` }],
});

describe('calls of one cause are one decision', () => {
  it('with the sum of their cost, all their pieces, and one touch for all', () => {
    expect(decisions([over('I-1', 2), over('I-2', 5), over('I-3', 1.5)])).toEqual([
      {
        id: 'hold-over:Cure',
        kind: 'hold-over',
        subject: 'I-2',
        title: '3 racks may leave Cure',
        detail: '36 pieces. Most costly: I-2 may leave Cure.',
        cost: 8.5,
        actions: [{ label: 'End all 3 holds', each: true }],
        evidence: '/batch/I-2',
        items: ['I-2', 'I-1', 'I-3'].map((batch) => ({
          subject: batch,
          title: `${batch} may leave Cure`,
          detail: '12 pieces. It has waited 3 h since.',
          cost: { 'I-1': 2, 'I-2': 5, 'I-3': 1.5 }[batch],
          line: `${batch} end`,
          href: `/batch/${batch}`,
        })),
      },
    ]);
  });

  it('keeps the id while racks come and go, and its words when one is left', () => {
    const [one] = decisions([over('I-1', 2)]);
    expect(one).toMatchObject({
      id: 'hold-over:Cure',
      title: 'I-1 may leave Cure',
      actions: [{ label: 'End hold, on to Buff', line: 'I-1 end' }],
      items: [],
    });
  });

  it('not across causes or kinds, and not where a call stands alone', () => {
    const booth = (name: string): SingleCall =>
      over(name, 3, { id: `booth:${name}`, kind: 'booth', cause: null });
    const found = decisions([
      late('I-1', 'Colour', 4),
      late('I-2', 'Neck fit', 1),
      late('I-3', 'Colour', 2),
      over('I-1', 0.5),
      booth('Booth 1'),
      booth('Booth 2'),
    ]);
    expect(found.map(({ id, title }) => [id, title])).toEqual([
      ['late:Colour', '2 racks at Colour will be late'],
      ['booth:Booth 1', 'Booth 1 may leave Cure'],
      ['booth:Booth 2', 'Booth 2 may leave Cure'],
      ['late:Neck fit', 'I-2 will be 5 days late'],
      ['hold-over:Cure', 'I-1 may leave Cure'],
    ]);
  });

  it('offers a page for all where they share one, else that of the most costly, by its name', () => {
    expect(decisions([late('I-1', 'Colour', 4), late('I-3', 'Colour', 2)])[0]?.actions).toEqual([
      { label: 'See I-1', href: '/batch/I-1' },
    ]);
    const cutter = (tool: string): SingleCall => ({
      ...over(tool, 1, { kind: 'cutter', cause: 'Body mill', pieces: 0, title: `${tool} is past its life` }),
      actions: [{ label: 'See the cutters', href: '/mill/body-mill' }],
    });
    expect(decisions([cutter('T1'), cutter('T2')])[0]).toMatchObject({
      title: '2 cutters at Body mill want changing',
      detail: expect.stringMatching(/^Most costly: T1 is past its life/) as string,
      actions: [{ label: 'See the cutters', href: '/mill/body-mill' }],
    });
  });

  it('ends only what can be ended: a gate that some racks pass in part', () => {
    const failed = (batch: string, line?: string): SingleCall => ({
      ...over(batch, 1, { kind: 'gate-failed', cause: 'Rest & read' }),
      actions: [
        ...(line ? [{ label: 'some pass', line }] : []),
        { label: 'See readings', href: `/batch/${batch}` },
      ],
    });
    const [some] = decisions([failed('B-1', 'B-1/1,2 end'), failed('B-2'), failed('B-3', 'B-3/7 end')]);
    expect(some?.title).toBe('3 racks do not pass the moisture gate of Rest & read');
    expect(some?.actions).toEqual([{ label: 'End hold of those that pass in 2 racks', each: true }]);
    expect(some?.items.map(({ line }) => line)).toEqual(['B-1/1,2 end', undefined, 'B-3/7 end']);
    const [none] = decisions([failed('B-1'), failed('B-2')]);
    expect(none?.actions).toEqual([{ label: 'See B-1', href: '/batch/B-1' }]);
  });

  it('five hundred racks without wood are one', () => {
    const many = Array.from({ length: 500 }, (_, i) => ({
      batch: `B-${i}`,
      pieces: 12,
      wooded: i % 2 ? 12 : 2,
    }));
    const [call, ...more] = decisions(woodCalls(many));
    expect(more).toEqual([]);
    expect(call).toMatchObject({
      title: '250 racks are open without their wood',
      detail: expect.stringMatching(
        /^2500 pieces\. Most costly: B-0 has no wood for 10 of its 12 pieces/,
      ) as string,
      actions: [{ label: 'Choose wood for B-0', href: '/wood/choose/B-0' }],
    });
    expect(call?.items).toHaveLength(250);
    expect(call?.cost).toBeCloseTo(75, 9);
  });
});
