import { boardFeet, inchesFromMm, MOST_BOARDS } from '@ample-crane/core';
import {
  Box,
  Button,
  Checkbox,
  FormControlLabel,
  MenuItem,
  Stack,
  TextField,
  Typography,
} from '@mui/material';
import { useState } from 'react';
import { Controller, useForm, type Control } from 'react-hook-form';
import { Link } from 'react-router';
import { answered, server, type Schemas } from '../api/client.ts';
import { useSetup, type Setup } from '../api/queries.ts';
import { Verdict } from '../devices/Verdict.tsx';
import { Columns, Opening, Page, Panel, Row } from '../parts/index.ts';
import { Form } from '../fields/Form.tsx';
import { boardsOf, type NewBoard } from './boards.ts';
import { useRooms, type Room } from './queries.ts';
import { typedNumber } from '../shared/typed.ts';
import { Refused } from '../devices/Refused.tsx';
import { useWoodFiling } from './useWoodFiling.ts';
import { WoodNav } from './WoodNav.tsx';

interface Asked {
  species: string;
  thickness: string;
  supplier: string;
  papers: string;
  endsSealed: boolean;
  dryness: Schemas['ReceiveLotDto']['dryness'];
  room: string;
  /** How the boards are given: so many alike, or one line for each. */
  count: string;
  length: string;
  width: string;
  lines: string;
}

export default function ReceivePage() {
  const { data: setup } = useSetup();
  const { data: rooms } = useRooms();
  if (!setup || !rooms) return <Opening />;
  return <ReceiveForm setup={setup} rooms={rooms.filter((room) => room.holdsWood)} />;
}

function wanted(form: Asked): { boards: NewBoard[]; problem: string | null } {
  if (form.lines.trim() !== '') return boardsOf(form.lines);
  const [count, lengthMm, widthMm] = [form.count, form.length, form.width].map(typedNumber);
  if (
    count == null ||
    lengthMm == null ||
    widthMm == null ||
    !Number.isInteger(count) ||
    count < 1 ||
    count > MOST_BOARDS
  )
    return {
      boards: [],
      problem: `say how many boards (1 to ${MOST_BOARDS}) of which length and width, or give one line for each`,
    };
  return { boards: Array.from({ length: count }, () => ({ lengthMm, widthMm })), problem: null };
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
  const { perform, busy, refused } = useWoodFiling();
  const [received, setReceived] = useState<{ code: string; count: number } | null>(null);
  const { control, handleSubmit, watch, reset } = useForm<Asked>({
    defaultValues: {
      ...{
        species: setup.species[0]?.name ?? '',
        thickness: '27',
        supplier: '',
        papers: '',
        endsSealed: true,
      },
      ...{
        dryness: 'kiln-dried',
        room: rooms[0]?.room ?? '',
        count: '',
        length: '2400',
        width: '180',
        lines: '',
      },
    },
  });
  const form = watch();
  const species = setup.species.find(({ name }) => name === form.species);
  const { boards, problem } = wanted(form);
  const thicknessMm = typedNumber(form.thickness);
  const feet = thicknessMm === null || thicknessMm <= 0 ? 0 : feetOf(boards, thicknessMm);
  const submit = handleSubmit(async (asked) => {
    if (thicknessMm === null) return;
    const { supplier, papers, endsSealed, dryness, room } = asked;
    const filed = await perform(
      (by, key) =>
        answered(
          server.POST('/api/lots', {
            body: {
              ...{
                key,
                by,
                species: asked.species,
                thicknessMm,
                supplier,
                endsSealed,
                dryness,
                room,
                boards,
              },
              boardFeet: Math.round(10 * feet) / 10,
              ...(papers.trim() === '' ? {} : { papers: papers.trim() }),
            },
          }),
        ),
      ({ sentence }) => `Received. ${sentence}`,
    );
    if (!filed) return;
    setReceived({ code: filed.entries[0]?.batch ?? '', count: boards.length });
    reset();
  });
  return (
    <Page title="Receive lumber" tabs={<WoodNav />}>
      <Columns>
        <Form
          panel
          lay="stack"
          onFile={() => submit()}
          style={{ maxWidth: 640, gap: 14 }}

          noValidate
        >
          <Row>
            <Choice
              control={control}
              name="species"
              label="Species"
              options={setup.species.map(({ name }) => name)}
              width={220}
            />
            <Text control={control} name="thickness" label="Thickness, mm" width={130} />
            <Choice
              control={control}
              name="dryness"
              label="It came"
              options={['kiln-dried', 'air-dried', 'green']}
              width={140}
            />
          </Row>
          <Row>
            <Text control={control} name="supplier" label="Supplier’s reference" width={280} />
            <Text
              control={control}
              name="papers"
              label={species?.papersNeeded ? 'Papers (this species needs them)' : 'Papers, if any'}
              width={280}
            />
          </Row>
          <Row>
            <Choice
              control={control}
              name="room"
              label="Stacked in"
              options={rooms.map(({ room }) => room)}
              width={200}
            />
            <Controller
              name="endsSealed"
              control={control}
              render={({ field }) => (
                <FormControlLabel
                  control={<Checkbox checked={field.value} onChange={field.onChange} />}
                  label="Ends are sealed against checking"
                />
              )}
            />
          </Row>
          <Row>
            <Text control={control} name="count" label="Boards alike" width={120} />
            <Text control={control} name="length" label="Length, mm" width={120} />
            <Text control={control} name="width" label="Width, mm" width={120} />
          </Row>
          <Controller
            name="lines"
            control={control}
            render={({ field }) => (
              <TextField
                {...field}
                label="Or one line for each board: length width weight figure colour"
                multiline
                minRows={3}
                maxRows={10}
                placeholder={'2400 180 9.6\n2350 195 10.2'}
              />
            )}
          />
          <Typography
            role="status"
            style={{ color: problem && form.lines.trim() !== '' ? 'var(--oxblood)' : undefined }}
          >
            {problem ?? `${boards.length} boards, ${feet.toFixed(1)} board feet`}
          </Typography>
          <Box>
            <Button
              type="submit"
              variant="contained"
              disabled={busy || problem !== null || thicknessMm === null || thicknessMm <= 0}
            >
              Receive
            </Button>
          </Box>
          <Refused words={refused} />
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

type TextName = 'thickness' | 'supplier' | 'papers' | 'count' | 'length' | 'width';
type ChoiceName = 'species' | 'dryness' | 'room';

function Text({
  control,
  name,
  label,
  width,
}: {
  control: Control<Asked>;
  name: TextName;
  label: string;
  width: number;
}) {
  return (
    <Controller
      name={name}
      control={control}
      render={({ field }) => <TextField {...field} label={label} sx={{ width }} />}
    />
  );
}

function Choice(props: {
  control: Control<Asked>;
  name: ChoiceName;
  label: string;
  options: string[];
  width: number;
}) {
  const { control, name, label, options, width } = props;
  return (
    <Controller
      name={name}
      control={control}
      render={({ field }) => (
        <TextField select {...field} label={label} sx={{ width }}>
          {options.map((option) => (
            <MenuItem key={option} value={option}>
              {option}
            </MenuItem>
          ))}
        </TextField>
      )}
    />
  );
}
