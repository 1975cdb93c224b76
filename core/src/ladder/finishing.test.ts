import { laidCoats, layersOn } from '../coats/layers.ts';
import { recoatAgainst } from '../coats/recoat.ts';
import { finishPlan, type CoatStep } from '../finishing/recipe.ts';
import { sendBackCosts } from '../flow/send-back.ts';
import type { EntryBody } from '../entries/index.ts';
import { cleared, FinishRack, plan, route, shipped, steady } from '../testing/finish-rack.ts';
import { hoursIn } from '../testing/tarrow.ts';
import type { FactoryCalendar } from '../time/calendar.ts';
import { finishViews } from './ladder.ts';

describe('coats by a recipe', () => {
  it('bring their own film and hours, and an operation is done when the recipe’s coats are on', () => {
    const rack = new FinishRack();
    rack.must(0, { type: 'start' });
    expect(rack.file(0, { type: 'done' })).toBe('0 of 1 coat on at prep');
    rack.must(0, { type: 'coat', wetUm: 100 }, { type: 'done' });
    expect(rack.state.coats[0]).toMatchObject({
      step: 'seal',
      wetUm: 100,
      spec: { material: 'sealer', solidsPct: 22 },
    });
  });

  it('laid twice from two tablets are refused the second time, by their number', () => {
    const rack = new FinishRack();
    rack.must(0, { type: 'start' }, { type: 'coat', number: 1 });
    expect(rack.file(0, { type: 'coat', number: 1 })).toBe(
      'coat 1 is on I-7/01 already: coat 2 is next at prep',
    );
    expect(rack.file(0, { type: 'coat', number: 3 })).toMatch(
      /coat 2 of prep is not on I-7\/01 yet: coats out of order/,
    );
  });

  it('go on a cure that was ended, whatever the clock of the coat below says', () => {
    const rack = new FinishRack().must(
      0,
      { type: 'start' },
      { type: 'coat', room: 'Booth 1' },
      { type: 'done' },
    );
    expect(rack.end(0.2, { because: 'to be stripped again' })).toBeNull();
    rack.must(0.3, { type: 'start' });
    const climateOf = () => steady;
    expect(
      recoatAgainst({ state: rack.state, positions: [1], atMs: hoursIn(0.3), climateOf }),
    ).toBeUndefined();
    expect(rack.views(0.3)[0]).toMatchObject({ title: 'Next coat now', ready: true });
  });

  it('more than the recipe asks for want a reason, which stays with the coat', () => {
    const rack = new FinishRack();
    rack.must(0, { type: 'start' }, { type: 'coat' });
    expect(rack.file(2, { type: 'coat' })).toBe(
      '1 coat of Thin lacquer, artificially aged are on at prep: another one wants a reason',
    );
    rack.must(2, { type: 'coat', because: 'thin at the edges' });
    expect(rack.state.coats.at(-1)?.extra).toBe('thin at the edges');
  });

  it.each([
    [{ type: 'coat', wetUm: -4 }, 'a wet film of -4 µm cannot be: above 0 to 1000 µm'],
    [{ type: 'coat', wetUms: [100, 0] }, 'a wet film of 0 µm cannot be: above 0 to 1000 µm'],
    [{ type: 'coat', wetUms: [100, 90] }, '2 film readings for 6 pieces'],
  ] as [EntryBody, string][])('refuse what cannot be, %#', (body, why) => {
    const rack = new FinishRack().must(0, { type: 'start' });
    expect(rack.file(0, body)).toBe(why);
  });

  it('cannot be told of before a later coat that is on', () => {
    const rack = new FinishRack();
    rack.must(0, { type: 'start' }).must(3, { type: 'coat' });
    expect(rack.file(1, { type: 'coat', because: 'x' })).toMatch(
      /coats out of order, take that one back first/,
    );
  });

  it('on part of a rack make two groups, each with its own clock', () => {
    const rack = new FinishRack();
    rack
      .must(0, { type: 'start' }, { type: 'coat', pieces: [1, 2] })
      .must(1, { type: 'coat', pieces: [3, 4, 5, 6] });
    rack.must(1, { type: 'done' });
    const groups = rack.views(2);
    expect(groups.map(({ positions }) => positions)).toEqual([
      [1, 2],
      [3, 4, 5, 6],
    ]);
    expect(groups[0]?.rungs[0]?.gathered).toBeCloseTo(2, 8);
    expect(groups[1]?.rungs[0]?.gathered).toBeCloseTo(1, 8);
    // The sealer's 20.9 µm are 0.7 of its 25 squared: 2.8 of 4 hours. Only the first two may go at 2.9 h.
    expect(rack.end(2.9)).toBeNull();
    expect(rack.state.pieces.filter(({ operation }) => operation === 'colour')).toHaveLength(2);
  });

  it('too early, or after the window without a scuff, are spoken against', () => {
    const rack = cleared();
    const against = (hour: number): string | undefined =>
      recoatAgainst({ state: rack.state, positions: [1], atMs: hoursIn(hour), climateOf: () => steady });
    expect(against(13.5)).toBe('the coat on I-7/01 may be recoated in 48 min at 21 °C, not yet');
    expect(against(15.2)).toBeUndefined();
    const satin = finishPlan(shipped('catalysed-satin'));
    const satined = new FinishRack(satin);
    satined.must(0, { type: 'start' }, { type: 'coat' }, { type: 'done' });
    expect(satined.end(5)).toBeNull();
    satined
      .must(5, { type: 'start' }, { type: 'done' })
      .must(6, { type: 'start' }, { type: 'coat', room: 'Booth 2' });
    const late = (hour: number): string | undefined =>
      recoatAgainst({ state: satined.state, positions: [1], atMs: hoursIn(hour), climateOf: () => steady });
    expect(late(29)).toBeUndefined();
    expect(satined.views(29)[0]).toMatchObject({ next: 'coat', ready: true, scuffFirst: false });
    expect(late(32)).toBe('the recoat window of I-7/01 closed 2 h at 21 °C ago: scuff it first');
    expect(satined.views(32)[0]).toMatchObject({ next: 'coat', ready: false, scuffFirst: true });
    satined.must(32, { type: 'sand', scuff: true });
    expect(late(32)).toBeUndefined();
    expect(satined.views(32)[0]).toMatchObject({ ready: true, scuffFirst: false });
  });
});

describe('the end of a cure', () => {
  it('goes by the clock of the slowest coat and keeps what it rested on', () => {
    const rack = cleared();
    expect(rack.end(100)).toMatch(/^Wait to buff: 87 of \d{3} reference hours, .* to go\.$/);
    expect(rack.end(14 + 480)).toBeNull();
    expect(rack.state.freed?.at(-1)).toMatchObject({ on: 'clock', operation: 'cure' });
    expect(rack.state.overrides).toEqual([]);
  });

  it('on a panel that is cured before the clock wants a reason, and keeps both', () => {
    const rack = cleared();
    const panel = 'test panel TP-4 lost 98 % of its solvent';
    expect(rack.end(200, { panel })).toMatch(/^Wait to buff: 187 of \d{3} reference hours/);
    expect(rack.end(200, { panel, because: 'panels have been right all year' })).toBeNull();
    expect(rack.state.freed?.at(-1)).toMatchObject({ on: 'panel', until: 'buff' });
    expect(rack.state.freed?.at(-1)?.words).toMatch(
      /^panels have been right all year; test panel TP-4 lost 98 %/,
    );
    expect(rack.state.overrides.at(-1)?.against).toMatch(/^Wait to buff: /);
  });

  it('waits for a failed mark whatever the clock says, and a passed one is kept as its evidence', () => {
    const rack = cleared();
    rack.must(600, { type: 'mark', passed: false });
    expect(rack.end(601)).toBe('Wait to buff: the last mark test failed, whatever the clock says.');
    rack.must(640, { type: 'mark', passed: true });
    expect(rack.end(641)).toBeNull();
    expect(rack.state.freed?.at(-1)?.on).toBe('mark');
  });

  it('makes the film ground for what is laid on it later: only then, and only by an end on the way to buff', () => {
    const rack = cleared();
    const [, , , ...clears] = layersOn(rack.state, 1);
    const freedAt = (hour: number, until: 'sand' | 'buff') => [
      {
        atMs: hoursIn(hour),
        by: 'P1',
        operation: 'cure',
        positions: [1],
        on: 'clock' as const,
        words: '',
        until,
      },
    ];
    const onFreed = (hour: number, until: 'sand' | 'buff') =>
      laidCoats(clears, freedAt(hour, until)).map((coat) => coat.onFreed ?? false);
    expect(onFreed(10, 'buff')).toEqual([false, false, true, false]);
    expect(onFreed(10, 'sand')).toEqual([false, false, false, false]);
    expect(onFreed(14, 'buff')).toEqual([false, false, false, false]);
  });

  it('passing the rule by needs a reason, which stays for ever', () => {
    const rack = cleared();
    expect(rack.end(50, { because: 'customer waits' })).toBeNull();
    expect(rack.state.overrides.at(-1)).toMatchObject({ reason: 'customer waits', operation: 'cure' });
    expect(rack.state.overrides.at(-1)?.against).toMatch(/^Wait to buff: /);
    expect(rack.state.freed?.at(-1)?.on).toBe('reason');
  });
});

describe('the ladder', () => {
  it('has a rung for each coat, to scale, with what sanding left of it', () => {
    const [view] = cleared().views(100);
    expect(view?.rungs.map(({ name }) => name)).toEqual([
      'Sealer',
      'Burst',
      'Burst',
      'Clear',
      'Clear',
      'Clear',
      'Clear',
    ]);
    // Sealer 95 µm at 22 %, less 6 µm sanded; burst 45 at 11 %; clear 105 at 22 %.
    expect(view?.rungs.map(({ leftUm }) => Number(leftUm.toFixed(2)))).toEqual([
      14.9, 4.95, 4.95, 23.1, 23.1, 23.1, 23.1,
    ]);
    expect(view?.buildUm).toBeCloseTo(117.2, 6);
    expect(view?.next).toBe('buff');
    expect(view?.title).toMatch(/^Buff \d+ h$/);
    expect(view?.rungs.at(-1)).toMatchObject({ booth: null, extra: null });
    expect(view?.rungs[3]).toMatchObject({ booth: 'booth-3', lot: 'TL-88' });
  });

  it('tells what sanding would leave: 117 − 22 µm with the spreads of coats and sandings', () => {
    const sanding = cleared().views(100)[0]?.sanding;
    expect(sanding?.leftUm).toBeCloseTo(95.2, 6);
    // Sealer 7·0.22, burst 3·0.11 twice, clear 7·0.22 four times, sanded 1.2, to be sanded 4.4.
    const sd = Math.hypot(1.54, 0.33, 0.33, 1.54, 1.54, 1.54, 1.54, 1.2, 4.4);
    expect(sanding?.sdUm).toBeCloseTo(sd, 6);
    expect(sanding?.thinShare).toBeLessThan(1e-6);
    expect(sanding?.grits).toEqual([800, 1000, 2000]);
  });

  it('says what moved the date: a cold day', () => {
    const cold = steady.map((one) =>
      one.atMs > hoursIn(100 - 24) && one.atMs <= hoursIn(100) ? { ...one, temperatureC: 15 } : one,
    );
    const [view] = cleared().views(100, cold);
    expect(view?.moved?.hours).toBeGreaterThan(4);
    expect(view?.moved?.why).toBe('the last day was 6.0 °C colder than usual');
    expect(view?.moved?.proof).toBe('18.3 reference hours where 24.0 were expected');
    expect(cleared().views(100)[0]?.moved).toBeNull();
  });

  it('says what moved the date of pieces that left the cure and came back: the coats laid since', () => {
    const rack = cleared();
    const [before] = rack.views(58);
    rack.must(60, { type: 'rework', to: 'clear', reason: 'dust', pieces: [1, 2, 3, 4, 5, 6] });
    rack.must(61, { type: 'start' });
    for (const hour of [61, 63, 65, 67]) rack.must(hour, { type: 'coat' });
    rack.must(68, { type: 'done' });
    const [view] = rack.views(72);
    expect(view).toMatchObject({ operation: 'cure', moved: { why: '4 coats more', proof: null } });
    expect(view?.moved?.hours).toBeCloseTo(((view?.fromMs ?? 0) - (before?.fromMs ?? 0)) / 3_600_000, 0);
    // Pieces that were not in the cure a day ago had no date that could have moved.
    expect(cleared().views(30)[0]?.moved).toBeNull();
  });

  it('says nothing of a date when they were somewhere else a day ago', () => {
    const rack = cleared();
    rack.must(20, { type: 'rework', to: 'clear', reason: 'dust', pieces: [1, 2, 3, 4, 5, 6] });
    rack.must(47, { type: 'start' });
    for (const hour of [47, 49, 51, 53]) rack.must(hour, { type: 'coat' });
    rack.must(54, { type: 'done' });
    expect(rack.views(72)[0]).toMatchObject({ operation: 'cure', moved: null });
  });

  it('says when readings that came late made it count anew', () => {
    const rack = cleared();
    const nowMs = hoursIn(100);
    const late = [{ room: 'Cure room', fromMs: hoursIn(40), toMs: hoursIn(60), cameMs: hoursIn(99) }];
    const warm = steady.map((one) =>
      one.atMs >= hoursIn(40) && one.atMs < hoursIn(60) ? { ...one, temperatureC: 26 } : one,
    );
    const [view] = finishViews({
      state: rack.state,
      route,
      nowMs,
      air: { climateOf: () => warm, late },
      time: (ms) => `${((ms - hoursIn(0)) / 3_600_000).toFixed(0)} h`,
    });
    expect(view?.recomputed).toMatch(
      /^Readings of Cure room, 40 h to 60 h, came late at 99 h: computed anew, \d\.\d reference hours more\.$/,
    );
  });

  it('asks for the next coat, and not before its time', () => {
    const rack = new FinishRack();
    rack.must(0, { type: 'start' }, { type: 'coat' }, { type: 'done' });
    expect(rack.end(5)).toBeNull();
    rack.must(5, { type: 'start' }, { type: 'coat', room: 'Booth 2' });
    expect(rack.views(5.5)[0]).toMatchObject({
      title: 'Next coat from 6 h',
      ready: false,
      next: 'coat',
      coat: { number: 2, of: 2 },
    });
    expect(rack.views(6.5)[0]).toMatchObject({ title: 'Next coat now', ready: true });
  });
});

describe('pieces that go back', () => {
  const calendar: FactoryCalendar = {
    zone: 'UTC',
    shifts: [{ name: 'A', start: '00:00', end: '24:00', weekdays: [1, 2, 3, 4, 5, 6, 7], breaks: [] }],
    closedDays: [],
    overtime: [],
  };
  const atBuff = (): FinishRack => {
    const rack = cleared();
    expect(rack.end(500)).toBeNull();
    return rack.must(500, { type: 'start' });
  };
  const slip: EntryBody = {
    type: 'rework',
    pieces: [4],
    reason: 'sand-through',
    cause: 'thin at the edge',
    to: 'colour',
  };

  it('leave their cause with the rack, and the rest goes on without them', () => {
    const rack = atBuff().must(501, slip);
    expect(rack.state.slips?.[0]).toMatchObject({
      operation: 'buff',
      to: 'colour',
      positions: [4],
      cause: 'thin at the edge',
    });
    expect(rack.state.pieces.filter(({ operation }) => operation === 'buff')).toHaveLength(5);
    expect(rack.state.pieces[3]).toMatchObject({ operation: 'colour', standing: 'waiting' });
    rack.must(502, { type: 'done', operation: 'buff' });
  });

  it('are stripped to where they go back to: only the sealer and what lies under it stay', () => {
    const rack = atBuff().must(501, slip);
    const build = (position: number) =>
      rack.views(502).find(({ positions }) => positions.includes(position))?.buildUm;
    expect(build(4)).toBeCloseTo(14.9, 6);
    expect(build(1)).toBeCloseTo(117.2, 6);
  });

  it('are waited for when the rack waits, which goes on by itself when they are back', () => {
    const rack = atBuff().must(501, { ...slip, rest: 'waits' });
    const waiting = (): number => rack.state.pieces.filter(({ called }) => called !== null).length;
    expect(waiting()).toBe(5);
    expect(rack.state.pieces[0]?.called?.reason).toBe('waits for I-7/04');
    rack.must(502, { type: 'start', pieces: [4] }, { type: 'coat', pieces: [4] });
    rack.must(
      504,
      { type: 'coat', pieces: [4] },
      { type: 'done', pieces: [4] },
      { type: 'start', pieces: [4] },
    );
    for (const hour of [506, 508, 510, 512]) rack.must(hour, { type: 'coat', pieces: [4] });
    rack.must(513, { type: 'done', pieces: [4] });
    expect(waiting()).toBe(5);
    expect(rack.end(1100, { pieces: [4] })).toBeNull();
    expect(waiting()).toBe(0);
    expect(rack.state.pieces.map(({ operation }) => operation)).toEqual(Array<string>(6).fill('buff'));
    expect(rack.state.pieces[0]?.standing).toBe('inHand');
  });

  it('cost what the loop takes: waiting costs the rack all of it, going on costs the set-ups again', () => {
    const rack = atBuff();
    const nowMs = hoursIn(501);
    const costs = sendBackCosts({
      state: rack.state,
      route,
      from: 'buff',
      to: 'colour',
      positions: [4],
      calendar,
      nowMs,
    });
    // Colour 10 + 5 min, clear 10 + 5 min, 336 h of cure.
    expect(costs.loopDays).toBeCloseTo((336 + 0.5) / 24, 8);
    expect(costs.rest).toBe(5);
    expect(costs.waits.rackEndMs).toBe(costs.waits.sentEndMs);
    // The rack alone: buff 10 + 25 min, two cycles of 24 h, wear 35 min, ship 85 min.
    expect((costs.goesOn.rackEndMs - nowMs) / 3_600_000).toBeCloseTo(48 + (35 + 35 + 85) / 60, 8);
    expect(costs.goesOn.setUpMinutes).toBe(30);
    expect(costs.waits.rackEndMs - costs.goesOn.rackEndMs).toBeGreaterThan(336 * 3_600_000);
    expect(() =>
      sendBackCosts({
        state: rack.state,
        route,
        from: 'colour',
        to: 'buff',
        positions: [4],
        calendar,
        nowMs,
      }),
    ).toThrow(/does not come before/);
  });
});

describe('what a send-back costs starts the rack’s cure anew (11.6)', () => {
  const calendar: FactoryCalendar = {
    zone: 'UTC',
    shifts: [{ name: 'A', start: '00:00', end: '24:00', weekdays: [1, 2, 3, 4, 5, 6, 7], breaks: [] }],
    closedDays: [],
    overtime: [],
  };

  it('no more: the rest has what is left of it, by the clock of the ladder', () => {
    const rack = cleared();
    const nowMs = hoursIn(150);
    const ladderMs = rack.views(150)[0]?.fromMs ?? NaN;
    const asked = { state: rack.state, route, calendar, from: 'cure', to: 'colour', positions: [4], nowMs };
    const { goesOn } = sendBackCosts({ ...asked, holdEndMs: ladderMs });
    // Buff 10 + 25 min, two cycles of 24 h, wear 35 min, ship 85 min after the date on the ladder.
    expect((goesOn.rackEndMs - ladderMs) / 3_600_000).toBeCloseTo(48 + (35 + 35 + 85) / 60, 8);
    const anew = sendBackCosts(asked).goesOn;
    expect((anew.rackEndMs - goesOn.rackEndMs) / 3_600_000).toBeCloseTo(
      336 - (ladderMs - nowMs) / 3_600_000,
      4,
    );
  });
});

describe('sanding and scuffing', () => {
  it('take film off, as measured or as the recipe expects', () => {
    const rack = cleared();
    expect(rack.end(500)).toBeNull();
    rack.must(
      500,
      { type: 'start' },
      { type: 'sand', removalUm: 30, pieces: [1] },
      { type: 'sand', pieces: [2] },
    );
    const build = (position: number) =>
      rack.views(501).find(({ positions }) => positions.includes(position))?.buildUm;
    expect(build(1)).toBeCloseTo(117.2 - 30, 6);
    expect(build(2)).toBeCloseTo(117.2 - 22, 6);
    expect(rack.file(501, { type: 'sand', removalUm: -2 })).toMatch(/-2 µm cannot be sanded off/);
    expect(rack.file(501, { type: 'sand', grits: [7] })).toMatch(/no such grit/);
  });
});

describe('ageing', () => {
  const chilled = (): FinishRack => {
    const rack = cleared();
    expect(rack.end(500)).toBeNull();
    return rack.must(500, { type: 'start' }).must(501, { type: 'done' });
  };

  it('counts turns of cold and warm, and refuses to break one off without a reason', () => {
    const rack = chilled().must(502, { type: 'age', to: 'cold', bed: 'freezer-1' });
    expect(rack.state.pieces[0]?.bed).toBe('freezer-1');
    expect(rack.file(510, { type: 'age', to: 'warm' })).toBe('10 h of cold are left in cycle 1');
    expect(rack.file(510, { type: 'age', to: 'cold' })).toBe('they are in the cold already');
    rack.must(521, { type: 'age', to: 'warm' });
    expect(rack.state.pieces[0]?.bed).toBeUndefined();
    expect(rack.end(528)).toBe(
      'Look at them: 1 of at most 2 cycles. Stop when they check as wanted, or chill again.',
    );
  });

  it('stops when what was wanted is seen, and that stays with the rack', () => {
    const rack = chilled().must(502, { type: 'age', to: 'cold' }).must(521, { type: 'age', to: 'warm' });
    expect(rack.end(528, { seen: 'light checks across the lower bout' })).toBeNull();
    expect(rack.state.freed?.at(-1)).toMatchObject({
      on: 'sight',
      words: 'light checks across the lower bout',
    });
    expect(rack.state.overrides).toEqual([]);
  });

  it('is over after as many cycles as are allowed', () => {
    const rack = chilled();
    for (const [cold, warm] of [
      [502, 521],
      [528, 547],
    ] as const)
      rack.must(cold, { type: 'age', to: 'cold' }).must(warm, { type: 'age', to: 'warm' });
    expect(rack.file(560, { type: 'age', to: 'cold' })).toBe('2 cycles are done, no more are wanted');
    expect(rack.end(560)).toBeNull();
  });
});

describe('another finish', () => {
  it('needs a reason, and leaves the coats that are on as they were laid', () => {
    const rack = cleared();
    const before = rack.state.coats;
    const finish = { ...plan, recipe: 'thin-lacquer-aged-2', targetUm: 90 };
    expect(rack.file(20, { type: 'refinish', finish, reason: ' ' })).toBe('another finish needs a reason');
    rack.must(20, { type: 'refinish', finish, reason: 'thicker for the show' });
    expect(rack.state.coats).toBe(before);
    expect(rack.state.moves?.at(-1)).toMatchObject({
      from: 'thin-lacquer-aged-1',
      to: 'thin-lacquer-aged-2',
    });
    expect(rack.file(21, { type: 'refinish', finish, reason: 'again' })).toMatch(
      /has thin-lacquer-aged-2 already/,
    );
  });

  it('keeps colour readings piece by piece', () => {
    const rack = cleared();
    const lab = { l: 58, a: 21, b: 52 };
    rack.must(20, { type: 'colour', pieces: [1, 2], labs: [lab, { ...lab, b: 49 }] });
    expect(rack.file(20, { type: 'colour', pieces: [1], labs: [{ ...lab, l: 140 }] })).toMatch(
      /is no colour/,
    );
    expect(rack.file(20, { type: 'colour', labs: [lab] })).toBe('1 colour for 6 pieces');
  });

  const clearStep = shipped('thin-lacquer-aged').steps.find((one): one is CoatStep => one.key === 'clear');
  it('ships with thin lacquer that takes 336 reference hours to buff', () =>
    expect(clearStep?.spec.hours.buff).toBe(336));
});
