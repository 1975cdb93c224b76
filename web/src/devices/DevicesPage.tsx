import type { Peg } from '@ample-crane/core';
import { Stack, Typography } from '@mui/material';
import type { ReactNode } from 'react';
import { Page, Panel, Quiet, Row } from '../parts/index.ts';
import { Bed } from './Bed.tsx';
import { BoardStack, type BoardMark, type StackBoard } from './BoardStack.tsx';
import { CallCard } from './CallCard.tsx';
import { EmcGauge } from './EmcGauge.tsx';
import { HoldBar } from './HoldBar.tsx';
import { Ladder } from './Ladder.tsx';
import { PegRack } from './PegRack.tsx';
import { Rope, type RopeSection } from './Rope.tsx';
import { Strip, type StripStep } from './Strip.tsx';
import { Verdict } from './Verdict.tsx';

const HOUR_MS = 3_600_000;
const NOW_MS = Date.UTC(2026, 10, 24, 20, 20);

const STACK = (['pass', 'pass', 'fail', 'unread', 'to-cut', 'cut', 'scrapped'] satisfies BoardMark[]).map(
  (mark, i): StackBoard => ({ number: i + 1, valuePct: mark === 'unread' ? null : 7.2 + 0.4 * i, mark }),
);

const rungs = (...progress: number[]) =>
  progress.map((share, i) => ({
    name: i === 0 ? 'Sealer' : 'Clear',
    leftUm: i === 0 ? 15 : 24,
    progress: share,
  }));
const LADDERS = [
  { words: 'sealed, and cured', rungs: rungs(1) },
  { words: 'three coats, the upper two curing', rungs: rungs(1, 1, 0.8, 0.35) },
  { words: 'five coats, all through', rungs: rungs(1, 1, 1, 1, 1) },
];

/** Every device in all its states, drawn from fixed examples: to look at when one of them is changed. */
export default function DevicesPage() {
  return (
    <Page title="Devices" tabs={<Quiet>each drawn once, used everywhere; examples, not the floor</Quiet>}>
      <Stack style={{ padding: '14px 16px' }}>
        <Racks />
        <HoldBars />
        <Group title="Rope">
          <Rope sections={ROPE} />
          <Rope
            sections={ROPE.map((section) => ({
              ...section,
              tight: null,
              sign: null,
              pieces: 0,
              onHold: 0,
              racks: 0,
            }))}
            slim
          />
        </Group>
        <Group title="Strip">
          <Strip steps={STEPS} label="Example route" />
        </Group>
        <Group title="Verdict line">
          <Verdict tone="good" sentence="Ready to sand: 72 of 72 reference hours reached." />
          <Verdict
            tone="hold"
            sentence="Wait to buff: 201 of 336 reference hours, 5.6 days at 21 °C to go."
          />
          <Verdict
            tone="wait"
            sentence="Sort: 12 read, mean 7.6 %, gate 6.0–8.5 %; 3 over, 9 would pass now."
          />
          <Verdict
            tone="bad"
            sentence="Reject: 12 read, mean 5.2 %, gate 6.0–8.5 %; 12 under, too dry to mill as it is."
          />
        </Group>
        <Group title="EMC gauge">
          {[7.1, 9.4, null].map((emcPct) => (
            <EmcGauge
              key={String(emcPct)}
              emcPct={emcPct}
              band={{ lowPct: 6, highPct: 8.5 }}
              words={emcPct === null ? 'no air logged' : `EMC ${emcPct} %, should be 6.0 to 8.5 %`}
            />
          ))}
        </Group>
        <Group title="Board stack">
          <BoardStack boards={STACK} />
        </Group>
        <Group title="Ladder">
          {LADDERS.map(({ words, rungs }) => (
            <Ladder key={words} rungs={rungs} minimumUm={60} scaleUm={125} height={90} words={words} named />
          ))}
        </Group>
        <Group title="Bed">
          <Bed
            name="Body table 1"
            places={8}
            parts={[
              { batch: 'B-217', pieces: 5 },
              { batch: 'B-218', pieces: 2 },
            ]}
            working
          />
          <Bed name="Planned" places={8} parts={[{ batch: 'B-219', pieces: 6 }]} />
          <Bed name="Stack press" places={16} parts={[]} />
        </Group>
        <Calls />
      </Stack>
    </Page>
  );
}

function Group({ title, children }: { title: string; children: ReactNode }) {
  return (
    <Panel stack label={title}>
      <Typography variant="h2">{title}</Typography>
      {children}
    </Panel>
  );
}

const repeat = (peg: Peg, n: number): Peg[] => Array.from({ length: n }, () => peg);

function Racks() {
  const mixed: Peg[] = [...repeat('done', 6), 'scrapped', 'rework', ...repeat('todo', 3), 'elsewhere'];
  const examples: [string, Parameters<typeof PegRack>[0]][] = [
    ['waiting', { code: 'B-217', pegs: repeat('todo', 12), words: 'waiting' }],
    ['waiting, late', { code: 'B-198', pegs: repeat('todo', 12), tag: '−2 d', late: true, words: 'waiting' }],
    ['in hand', { code: 'B-193', pegs: mixed, tag: '6/11', inverted: true, wide: true, words: 'in hand' }],
    ['done, scrapped, rework, to do, elsewhere', { code: 'B-201', pegs: mixed, wide: true, words: 'mixed' }],
    ['one piece', { code: 'I-31', pegs: ['todo'], words: 'a one-off' }],
    [
      'more than 24',
      {
        code: 'B-230',
        pegs: [...repeat('done', 20), ...repeat('todo', 16)],
        tag: '20/36',
        wide: true,
        words: 'a large rack',
      },
    ],
  ];
  return (
    <Group title="Peg rack">
      <Row style={{ gap: 24, alignItems: 'flex-start' }}>
        {examples.map(([name, props]) => (
          <div key={name}>
            <PegRack {...props} />
            <Quiet block>{name}</Quiet>
          </div>
        ))}
      </Row>
    </Group>
  );
}

function HoldBars() {
  const end = (hours: number) => ({
    endMs: NOW_MS + hours * HOUR_MS,
    lowMs: NOW_MS + hours * HOUR_MS,
    highMs: NOW_MS + hours * HOUR_MS,
  });
  const common = { nowMs: NOW_MS, axisEndMs: NOW_MS + 144 * HOUR_MS, over: false, href: '/devices' };
  return (
    <Group title="Hold bar">
      <HoldBar {...common} code="N-101" word="glue" {...end(3)} until="Tue 17:20" />
      <HoldBar {...common} code="N-112" word="rest" {...end(90)} until="Sat 08:20" />
      <HoldBar
        {...common}
        code="B-186"
        word="cure"
        {...end(70)}
        lowMs={NOW_MS + 60 * HOUR_MS}
        highMs={NOW_MS + 88 * HOUR_MS}
        until="Fri 12:20"
      />
      <HoldBar {...common} code="I-182" word="cure" {...end(300)} until="7 Dec 02:20" />
      <HoldBar
        {...common}
        code="B-224"
        word="drying"
        endMs={null}
        lowMs={null}
        highMs={null}
        until="read it"
      />
      <HoldBar {...common} code="I-165" word="settling" over {...end(-2)} until="Tue 12:20" />
    </Group>
  );
}

const section = (
  key: string,
  name: string,
  racks: number,
  pieces: number,
  onHold: number,
  tight: string | null = null,
): RopeSection => ({
  key,
  name,
  href: `/stage/${key}`,
  racks,
  pieces,
  onHold,
  words: `${pieces - onHold} moving · ${onHold} on hold`,
  tight,
  sign: tight === null ? null : 'Colour is marked: 3.1 days of work in front of it on average.',
});

const ROPE = [
  section('wood', 'Wood room', 9, 168, 110),
  section('machining', 'Machining', 4, 62, 0),
  section('fitting', 'Fitting', 7, 118, 30),
  section('finishing', 'Finishing', 14, 226, 90, 'tight: colour, 3.1 days waiting'),
  section('assembly', 'Assembly', 5, 71, 18),
];

const step = (
  name: string,
  state: StripStep['state'],
  kind: StripStep['kind'] = 'work',
  extra: Partial<StripStep> = {},
): StripStep => ({
  key: name,
  name,
  state,
  kind,
  here: 0,
  time: null,
  reworkTo: null,
  ...extra,
});

const STEPS = [
  step('Rest & read', 'done', 'hold', { time: 'Mon 09:10' }),
  step('Body mill', 'done', 'work', { time: 'Mon 14:02' }),
  step('Body rest', 'done', 'hold', { time: 'Wed 14:10' }),
  step('Neck joint', 'done', 'join', { time: 'Thu 10:31' }),
  step('Colour', 'here', 'work', { here: 1 }),
  step('Clear coats', 'here', 'work', { here: 10, reworkTo: 4 }),
  step('Cure', 'ahead', 'hold'),
  step('Final inspection', 'ahead', 'gate'),
  step('Pack & ship', 'ahead'),
];

const SETTLED = ['I-165', 'I-168', 'I-171'].map((subject) => ({
  subject,
  title: `${subject} may leave Settling`,
  detail: 'Ready: settled, action moved +0.03 mm, limit 0.10 mm.',
  line: `${subject} end`,
  href: '/devices',
}));

function Calls() {
  const nothing = (): Promise<void> => Promise.resolve();
  return (
    <Group title="Call">
      <CallCard
        kind="constraint"
        cost={2}
        items={[]}
        title="Colour is the constraint"
        detail="31 h of work waiting against 9 h a day; all three signs of the last 20 working days name it; 3.4 days of work in front of it on average."
        evidence="/flow"
        actions={[{ label: 'See the three signs', href: '/flow/constraint' }]}
        onLines={nothing}
      />
      <CallCard
        kind="gate-failed"
        cost={2}
        items={[]}
        title="B-231 does not pass its moisture gate"
        detail="Sort: 20 read, mean 8.4 %, gate 6.0–8.5 %; 4 over, 16 would pass now."
        evidence="/devices"
        actions={[
          { label: 'End hold of the 16 that pass', line: '' },
          { label: 'See readings', href: '/devices' },
        ]}
        onLines={nothing}
      />
      <CallCard
        kind="hold-over"
        cost={2}
        items={SETTLED}
        title="3 racks may leave Settling"
        detail="33 pieces. Most costly: I-165 may leave Settling. 12 pieces. Ready: settled, action moved +0.03 mm, limit 0.10 mm."
        evidence="/devices"
        actions={[{ label: 'End all 3 holds', each: true }]}
        onLines={nothing}
      />
      <CallCard
        kind="late"
        cost={2}
        items={[]}
        title="I-170 will be 2.1 days late"
        detail="Due Thu 15:00; by its route alone it cannot be ready before Sat 16:20."
        evidence="/devices"
        actions={[{ label: 'See its route', href: '/devices' }]}
        onLines={nothing}
      />
      <CallCard
        kind="dry-station"
        cost={2}
        items={[]}
        title="Neck mill will run dry"
        detail="1.2 h of work in front of it; the next rack, N-112, comes off hold Thu 06:00."
        evidence="/devices"
        actions={[{ label: 'See N-112', href: '/devices' }]}
        onLines={nothing}
      />
    </Group>
  );
}
