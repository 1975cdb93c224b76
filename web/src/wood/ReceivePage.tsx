import {
  boardFeet,
  count,
  inchesFromMm,
  MAY_BE,
  MOST_BOARDS,
  signIn,
  type ChosenUnits,
} from '@ample-crane/core';
import { Box, Button, Stack, Typography } from '@mui/material';
import { useState } from 'react';
import { useWatch } from 'react-hook-form';
import { Link } from 'react-router';
import { answered, server, type Schemas } from '../api/client.ts';
import { useSetup, type Setup } from '../api/queries.ts';
import { Verdict } from '../devices/Verdict.tsx';
import { Columns, Opening, Page, Panel, Row } from '../parts/index.ts';
import {
  AskChoice,
  AskFrom,
  AskNumber,
  asOptions,
  AskText,
  AskTick,
  AskWords,
  Form,
  useDraft,
} from '../fields/index.ts';
import { boardsOf, type NewBoard } from './boards.ts';
import { useRooms, useWoodGate, type Room, type WoodGate } from './queries.ts';
import { useUnits } from '../shared/units.ts';
import { maybeWords, numberOf, typedNumber } from '../shared/typed.ts';
import { useWoodFiling } from './useWoodFiling.ts';
import { WoodNav } from './WoodNav.tsx';
import { pct } from './words.ts';

const DRYNESS: readonly Schemas['ReceiveLotDto']['dryness'][] = ['kiln-dried', 'air-dried', 'green'];

/** How the boards are given: so many alike, or one line for each. */
interface BoardsAsked {
  count: string;
  lengthMm: string;
  widthMm: string;
  lines: string;
}

export default function ReceivePage() {
  const { data: setup } = useSetup();
  const { data: rooms } = useRooms();
  if (!setup || !rooms) return <Opening />;
  return <ReceiveForm setup={setup} rooms={rooms.filter((room) => room.holdsWood)} />;
}

/** The boards as far as they are said; null: not yet, or not so that they can be read. */
function boardsWanted(asked: Partial<BoardsAsked>, units: ChosenUnits): NewBoard[] | null {
  const { count: many = '', lengthMm: length = '', widthMm: width = '', lines = '' } = asked;
  if (lines.trim() !== '') {
    const { boards, problem } = boardsOf(lines, units);
    return problem === null && boards.length > 0 ? boards : null;
  }
  const [number, lengthMm, widthMm] = [many, length, width].map(typedNumber);
  if (!number || !lengthMm || !widthMm || !Number.isInteger(number) || number < 1 || number > MOST_BOARDS)
    return null;
  return Array.from({ length: number }, () => ({ lengthMm, widthMm }));
}

const feetOf = (boards: readonly NewBoard[], thicknessMm: number): number =>
  boards.reduce(
    (sum, board) =>
      sum +
      boardFeet({
        thicknessIn: inchesFromMm(thicknessMm),
        widthIn: inchesFromMm(board.widthMm),
        lengthFt: inchesFromMm(board.lengthMm) / 12,
      }),
    0,
  );

/** Receives a lot: its boards get their tags, and it begins to dry in its room. */
function ReceiveForm({ setup, rooms }: { setup: Setup; rooms: Room[] }) {
  const { perform, busy, refusal } = useWoodFiling();
  const [received, setReceived] = useState<{ code: string; count: number } | null>(null);
  const begin = {
    ...{
      species: setup.species[0]?.name ?? '',
      thicknessMm: '27',
      supplier: '',
      papers: '',
      endsSealed: true,
    },
    ...{ dryness: 'kiln-dried' as string, room: rooms[0]?.room ?? '' },
    ...{ count: '', lengthMm: '2400', widthMm: '180', lines: '' },
  };
  const draft = useDraft('lot of lumber', begin);
  const units = useUnits();
  const asked = useWatch({ control: draft.form.control });
  const species = setup.species.find(({ name }) => name === asked.species);
  const boards = boardsWanted(asked, units);
  const byLine = (asked.lines ?? '').trim() !== '';
  const thickness = typedNumber(asked.thicknessMm ?? '') ?? 0;
  const receive = async (values: typeof begin): Promise<boolean> => {
    const { species: wood, supplier, papers, endsSealed, room, thicknessMm } = values;
    const lot = boardsWanted(values, units) ?? [];
    const filed = await perform(
      (by, key) =>
        answered(
          server.POST('/api/lots', {
            body: {
              ...{ key, by, species: wood, thicknessMm: numberOf(thicknessMm), supplier: supplier.trim() },
              ...{ endsSealed, room, boards: lot },
              dryness: DRYNESS.find((one) => one === values.dryness) ?? 'green',
              boardFeet: Math.round(10 * feetOf(lot, numberOf(thicknessMm))) / 10,
              ...maybeWords('papers', papers),
            },
          }),
        ),
      ({ sentence }) => `Received. ${sentence}`,
    );
    if (filed) setReceived({ code: filed.entries[0]?.batch ?? '', count: lot.length });
    return filed !== null;
  };
  return (
    <Page title="Receive lumber" tabs={<WoodNav />}>
      <Columns>
        <Form
          draft={draft}
          refusal={refusal}
          panel
          lay="stack"
          style={{ maxWidth: 640, gap: 14 }}
          onFile={receive}
        >
          <Row>
            <AskFrom
              name="species"
              label="Species"
              options={asOptions(setup.species.map(({ name }) => name))}
              needed="which wood"
              width={220}
            />
            <AskNumber name="thicknessMm" label="Thickness" unit="mm" {...MAY_BE.boardThicknessMm} />
            <AskChoice name="dryness" label="It came" options={asOptions(DRYNESS)} width={140} />
          </Row>
          <Row>
            <AskWords name="supplier" label="Supplier’s reference" width={280} />
            <AskWords
              name="papers"
              label={species?.papersNeeded ? 'Papers (this species needs them)' : 'Papers, if any'}
              width={280}
            />
          </Row>
          <Row>
            <AskFrom
              name="room"
              label="Stacked in"
              options={asOptions(rooms.map(({ room }) => room))}
              needed="which room"
              width={200}
            />
            <AskTick name="endsSealed" label="Ends are sealed against checking" />
          </Row>
          {!byLine && (
            <Row>
              <AskNumber name="count" label="Boards alike" least={1} most={MOST_BOARDS} whole />
              <AskNumber name="lengthMm" label="Length" unit="mm" {...MAY_BE.boardLengthMm} />
              <AskNumber name="widthMm" label="Width" unit="mm" {...MAY_BE.boardWidthMm} />
            </Row>
          )}
          <AskText
            name="lines"
            label={`Or one line for each board: length width (${signIn('mm', units)}), weight (kg), figure, colour`}
            placeholder={
              signIn('mm', units) === 'mm'
                ? '2400 180 9.6\n2350 195 10.2'
                : '94 1/2 7 1/8 9.6\n92 1/2 7 5/8 10.2'
            }
            wrong={(lines) =>
              lines.trim() === '' ? undefined : (boardsOf(lines, units).problem ?? undefined)
            }
            least={3}
            most={10}
          />
          <Typography role="status">
            {boards
              ? `${count(boards.length, 'board')}, ${feetOf(boards, thickness).toFixed(1)} board feet`
              : `Say how many boards (1 to ${MOST_BOARDS}) of which length and width, or give one line for each.`}
          </Typography>
          <Box>
            <Button type="submit" variant="contained" disabled={busy}>
              Receive
            </Button>
          </Box>
        </Form>
        <Stack>
          {received && (
            <Verdict
              tone="good"
              sentence={`${received.code} is received. Tag its boards ${received.code}/1 to ${received.code}/${received.count}.`}
            >
              <Typography>
                <Link to={`/wood/read/${received.code}`}>Read it now</Link> ·{' '}
                <Link to={`/wood/lots/${received.code}`}>Open {received.code}</Link>
              </Typography>
            </Verdict>
          )}
          <WhatComesIn
            boards={boards}
            thicknessMm={thickness}
            room={rooms.find(({ room }) => room === asked.room)}
          />
          <Panel>
            <Typography variant="h2">On arrival</Typography>
            <Typography>
              Check with a meter before it is stacked, note papers of protected species, seal the ends of what
              is still wet.
            </Typography>
            <Typography color="textSecondary" style={{ marginTop: 6 }}>
              Some woods sensitise; lifting stacks needs two. Follow your local codes and your safety officer;
              this is a reminder, not training.
            </Typography>
          </Panel>
        </Stack>
      </Columns>
    </Page>
  );
}

/** What the boards are together, and whether the air they are stacked in takes them to where they may be cut. */
function WhatComesIn({
  boards,
  thicknessMm,
  room,
}: {
  boards: readonly NewBoard[] | null;
  thicknessMm: number;
  room: Room | undefined;
}) {
  const { data: gate } = useWoodGate();
  const cubicMetres = (boards ?? []).reduce(
    (sum, { lengthMm, widthMm }) => sum + (lengthMm * widthMm * thicknessMm) / 1e9,
    0,
  );
  const weights = (boards ?? []).flatMap(({ weightKg }) => weightKg ?? []);
  return (
    <Panel label="What comes in">
      <Typography variant="h2">What comes in</Typography>
      {boards && thicknessMm > 0 && (
        <Typography>
          {cubicMetres.toFixed(2)} m³
          {weights.length === boards.length &&
            `, ${weights.reduce((sum, kg) => sum + kg, 0).toFixed(0)} kg: ${(weights.reduce((sum, kg) => sum + kg, 0) / cubicMetres).toFixed(0)} kg a cubic metre`}
          .
        </Typography>
      )}
      {room && gate && <Typography>{roomWords(room, gate.window)}</Typography>}
      <Typography color="textSecondary">How long it dries is said as soon as it is read.</Typography>
    </Panel>
  );
}

/** Where a room's air takes wood, beside the gate. */
function roomWords({ room, emcPct }: Room, { lowPct, highPct }: WoodGate['window']): string {
  if (emcPct === null) return `Nobody knows the air of ${room}: its sensor has said nothing.`;
  const gate = `the gate of ${pct(lowPct)}–${pct(highPct)} %`;
  const takes = `The air of ${room} takes wood to ${pct(emcPct)} %`;
  if (emcPct > highPct) return `${takes}, wetter than ${gate}: before it is cut it must go to a drier room.`;
  if (emcPct < lowPct) return `${takes}, drier than ${gate}: it may be cut on its way, not at its end.`;
  return `${takes}, inside ${gate}.`;
}
