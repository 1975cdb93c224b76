import {
  Button,
  Stack,
  Table,
  TableBody,
  TableCell,
  TableHead,
  TableRow,
  TextField,
  Typography,
} from '@mui/material';
import { useState } from 'react';
import { answered, server } from '../api/client.ts';
import { useFloor } from '../api/queries.ts';
import { sayDate, sayTime } from '../shared/time.ts';
import { typedNumber } from '../shared/typed.ts';
import { usePerform } from '../shared/usePerform.ts';
import { Refused } from '../devices/Refused.tsx';
import { Form } from '../fields/Form.tsx';
import { Opening } from '../parts/Opening.tsx';
import { Columns } from '../parts/Columns.tsx';
import { Page } from '../parts/Page.tsx';
import { Panel } from '../parts/Panel.tsx';
import { Quiet } from '../parts/Quiet.tsx';
import { Row } from '../parts/Row.tsx';
import { MillNav } from './MillNav.tsx';
import { useCutterChanges, useMachines, useMills, usePrograms, type Program } from './queries.ts';

const nameOf = ({ model, kind, operation, revision }: Program): string =>
  `${model}-${kind}/${operation} r${revision}`.toLowerCase();

/** Programs with their revisions and real times, and every change of a cutter. */
export default function ProgramsPage() {
  const { data: programs, error } = usePrograms();
  const { data: mills = [] } = useMills();
  const { data: machines = [] } = useMachines();
  const { data: floor } = useFloor();
  if (!programs) return <Opening error={error} />;
  const zone = floor?.zone ?? 'utc';
  const newest = programs.filter(
    (one) =>
      !programs.some(
        (other) =>
          other.model === one.model &&
          other.kind === one.kind &&
          other.operation === one.operation &&
          other.revision > one.revision,
      ),
  );
  const real = new Map(machines.flatMap((machine) => machine.real.map((one) => [one.program, one] as const)));
  return (
    <Page title={<>Programs & cutters</>} tabs={<MillNav />}>
      <Columns>
        <Panel label="Programs">
          <Typography variant="h2">
            Programs <Quiet small>the next load after a new revision asks for a first piece</Quiet>
          </Typography>
          <Table>
            <TableHead>
              <TableRow>
                {['program', 'set-up', 'load', 'cycle', 'by the machine', 'cutters, minutes a cycle', ''].map(
                  (head) => (
                    <TableCell key={head} scope="col">
                      {head}
                    </TableCell>
                  ),
                )}
              </TableRow>
            </TableHead>
            <TableBody>
              {newest.map((program) => (
                <ProgramLine
                  key={nameOf(program)}
                  program={program}
                  real={real.get(nameOf(program))}
                  zone={zone}
                />
              ))}
            </TableBody>
          </Table>
        </Panel>
        <Stack>
          {mills.map(({ code, name }) => (
            <Changes key={code} station={code} name={name} zone={zone} nowMs={floor?.nowMs ?? 0} />
          ))}
        </Stack>
      </Columns>
    </Page>
  );
}

function ProgramLine({
  program,
  real,
  zone,
}: {
  program: Program;
  real: { minutes: number; cycles: number } | undefined;
  zone: string;
}) {
  const [open, setOpen] = useState(false);
  const { tools, note, madeAt, person } = program;
  return (
    <>
      <TableRow>
        <TableCell>
          <strong>{nameOf(program)}</strong>
          <Quiet block>
            {note} · {person ?? 'nobody'}, {sayDate(Date.parse(madeAt), zone)}
          </Quiet>
        </TableCell>
        <TableCell>{program.setUpMinutes} min</TableCell>
        <TableCell>{program.loadMinutes} min</TableCell>
        <TableCell>{program.cycleMinutes} min</TableCell>
        <TableCell>{real ? `${real.minutes.toFixed(1)} min (${real.cycles})` : 'not heard'}</TableCell>
        <TableCell>{tools.map(({ tool, minutes }) => `${tool} ${minutes}`).join(', ')}</TableCell>
        <TableCell>
          <Button onClick={() => setOpen(!open)} aria-label={`New revision of ${nameOf(program)}`}>
            Revise
          </Button>
        </TableCell>
      </TableRow>
      {open && (
        <TableRow>
          <TableCell colSpan={7}>
            <ReviseForm program={program} onDone={() => setOpen(false)} />
          </TableCell>
        </TableRow>
      )}
    </>
  );
}

const FIELDS = [
  { key: 'setUpMinutes', label: 'Set-up, min' },
  { key: 'loadMinutes', label: 'Load, min' },
  { key: 'cycleMinutes', label: 'Cycle, min' },
] as const;

function ReviseForm({ program, onDone }: { program: Program; onDone: () => void }) {
  const { perform, busy, refused } = usePerform();
  const [texts, setTexts] = useState<Record<string, string>>(() => {
    const fields = FIELDS.map(({ key }): [string, string] => [key, String(program[key])]);
    const tools = program.tools.map(({ tool, minutes }): [string, string] => [tool, String(minutes)]);
    return Object.fromEntries([...fields, ...tools]);
  });
  const [note, setNote] = useState('');
  const number = (key: string): number | null => typedNumber(texts[key] ?? '');
  const [setUpMinutes, loadMinutes, cycleMinutes] = FIELDS.map(({ key }) => number(key));
  const tools = program.tools.map(({ tool }) => ({ tool, minutes: number(tool) }));
  const whole = tools.every(({ minutes }) => minutes !== null);
  const ready =
    setUpMinutes != null && loadMinutes != null && cycleMinutes != null && whole && note.trim() !== '';
  const file = async (): Promise<void> => {
    if (!ready) return;
    const { model, kind, operation } = program;
    const body = {
      model,
      kind,
      operation,
      setUpMinutes,
      loadMinutes,
      cycleMinutes,
      note: note.trim(),
      from: program.revision,
    };
    const done = await perform(
      (by, key) =>
        answered(
          server.POST('/api/programs', {
            body: {
              key,
              by,
              ...body,
              tools: tools.map(({ tool, minutes }) => ({ tool, minutes: minutes ?? 0 })),
            },
          }),
        ),
      (made) => `Revision ${made.revision} of ${model} ${kind} ${operation} is the program from now on`,
    );
    if (done) onDone();
  };
  const field = (key: string, label: string) => (
    <TextField
      key={key}
      label={label}
      value={texts[key] ?? ''}
      onChange={(event) => setTexts({ ...texts, [key]: event.target.value })}
      error={number(key) === null}
      helperText={number(key) === null ? 'a number' : undefined}
      sx={{ width: 130 }}
    />
  );
  return (
    <Form lay="stack" style={{ gap: 8 }} onFile={file}>
      <Row>
        {FIELDS.map(({ key, label }) => field(key, label))}
        {program.tools.map(({ tool }) => field(tool, `${tool}, min`))}
      </Row>
      <Row>
        <TextField
          label="What changed"
          value={note}
          onChange={(event) => setNote(event.target.value)}
          sx={{ width: 320 }}
        />
        <Button type="submit" variant="contained" disabled={busy || !ready}>
          Make revision {program.revision + 1}
        </Button>
      </Row>
      <Refused words={refused} />
    </Form>
  );
}

function Changes({
  station,
  name,
  zone,
  nowMs,
}: {
  station: string;
  name: string;
  zone: string;
  nowMs: number;
}) {
  const { data: changes, error } = useCutterChanges(station);
  return (
    <Panel label={`Cutter changes, ${name}`}>
      <Typography variant="h2">Cutters changed, {name}</Typography>
      {!changes && <Typography color="textSecondary">{error?.message ?? 'Opening…'}</Typography>}
      {changes?.length === 0 && <Typography color="textSecondary">No change logged yet.</Typography>}
      <Table>
        <TableBody>
          {changes?.map((change, i) => (
            <TableRow key={i}>
              <TableCell>{sayTime(Date.parse(change.at), zone, nowMs)}</TableCell>
              <TableCell>
                {change.tool}
                <Quiet block>
                  {change.reason}, {change.person}
                </Quiet>
              </TableCell>
              <TableCell align="right">{change.usedMinutes.toFixed(0)} min</TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
    </Panel>
  );
}
