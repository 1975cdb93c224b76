import { MAY_BE } from '@ample-crane/core';
import { Box, Button, Dialog, DialogContent, DialogTitle, Stack, Typography } from '@mui/material';
import { useState } from 'react';
import { answered, server } from '../api/client.ts';
import { useFloor } from '../api/queries.ts';
import { sayDate } from '../shared/time.ts';
import { numberOf } from '../shared/typed.ts';
import { usePerform } from '../shared/usePerform.ts';
import { AskNumber, AskWords, Form, useDraft } from '../fields/index.ts';
import { Columns, Opening, Page, Panel, Quiet, Row } from '../parts/index.ts';
import { DataTable } from '../tables/DataTable.tsx';
import { moment, type Column } from '../tables/column.ts';
import { MillNav } from './MillNav.tsx';
import {
  useCutterChanges,
  useMachines,
  useMills,
  usePrograms,
  type CutterChange,
  type Program,
} from './queries.ts';

const nameOf = ({ model, kind, operation, revision }: Program): string =>
  `${model}-${kind}/${operation} r${revision}`.toLowerCase();

/** Programs with their revisions and real times, and every change of a cutter. */
export default function ProgramsPage() {
  const { data: programs, error } = usePrograms();
  const { data: mills = [] } = useMills();
  const { data: machines = [] } = useMachines();
  const { data: floor } = useFloor();
  const [revised, setRevised] = useState<Program | null>(null);
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
          <DataTable
            name="programs"
            label="Programs"
            noun="program"
            rows={newest}
            rowKey={nameOf}
            columns={programColumns(zone, (name) => real.get(name), setRevised)}
            empty="No program is registered."
          />
        </Panel>
        <Stack>
          {mills.map(({ code, name }) => (
            <Changes key={code} station={code} name={name} zone={zone} />
          ))}
        </Stack>
      </Columns>
      <Dialog open={revised !== null} onClose={() => setRevised(null)} aria-labelledby="revise" maxWidth="md">
        <DialogTitle id="revise">New revision of {revised && nameOf(revised)}</DialogTitle>
        <DialogContent>
          {revised && <ReviseForm program={revised} onDone={() => setRevised(null)} />}
        </DialogContent>
      </Dialog>
    </Page>
  );
}

type Real = { minutes: number; cycles: number } | undefined;

const programColumns = (
  zone: string,
  realOf: (program: string) => Real,
  onRevise: (program: Program) => void,
): Column<Program>[] => [
  {
    key: 'program',
    head: 'program',
    of: nameOf,
    show: (program) => (
      <Box>
        <strong>{nameOf(program)}</strong>
        <Quiet block>
          {program.note} · {program.person ?? 'nobody'}, {sayDate(Date.parse(program.madeAt), zone)}
        </Quiet>
      </Box>
    ),
    share: 2,
    least: 190,
  },
  { key: 'model', head: 'model', of: ({ model }) => model, choice: true, hidden: true },
  { key: 'set-up', head: 'set-up, min', of: ({ setUpMinutes }) => setUpMinutes, digits: 0 },
  { key: 'load', head: 'load, min', of: ({ loadMinutes }) => loadMinutes, digits: 0 },
  { key: 'cycle', head: 'cycle, min', of: ({ cycleMinutes }) => cycleMinutes, digits: 1 },
  {
    key: 'real',
    head: 'by the machine, min',
    of: (program) => realOf(nameOf(program))?.minutes ?? null,
    show: (program) => {
      const real = realOf(nameOf(program));
      return real ? `${real.minutes.toFixed(1)} (${real.cycles})` : 'not heard';
    },
    digits: 1,
    least: 110,
  },
  {
    key: 'cutters',
    head: 'cutters, minutes a cycle',
    of: ({ tools }) => tools.map(({ tool, minutes }) => `${tool} ${minutes}`).join(', '),
    share: 1.6,
    least: 150,
  },
  {
    key: 'revise',
    head: '',
    of: () => null,
    show: (program) => (
      <Button onClick={() => onRevise(program)} aria-label={`New revision of ${nameOf(program)}`}>
        Revise
      </Button>
    ),
    share: 0.4,
    least: 86,
  },
];

const FIELDS = [
  { key: 'setUpMinutes', label: 'Set-up', limits: MAY_BE.minutes },
  { key: 'loadMinutes', label: 'Load', limits: MAY_BE.minutes },
  { key: 'cycleMinutes', label: 'Cycle', limits: MAY_BE.cycleMinutes },
] as const;

/** Name of the field of a cutter's minutes; the form's names know no points. */
const cutterField = (tool: string): string => `cutter ${tool.replaceAll('.', '·')}`;

function ReviseForm({ program, onDone }: { program: Program; onDone: () => void }) {
  const { perform, busy, refusal } = usePerform();
  const { model, kind, operation, revision } = program;
  const begin: Record<string, string> = {
    ...Object.fromEntries(FIELDS.map(({ key }) => [key, String(program[key])])),
    ...Object.fromEntries(program.tools.map(({ tool, minutes }) => [cutterField(tool), String(minutes)])),
    note: '',
  };
  const draft = useDraft(`revision ${revision + 1} of ${nameOf(program)}`, begin);
  const file = async (values: Record<string, string>): Promise<boolean> => {
    const minutes = (field: string): number => numberOf(values[field] ?? '');
    const body = {
      ...{ model, kind, operation, from: revision, note: (values.note ?? '').trim() },
      setUpMinutes: minutes('setUpMinutes'),
      loadMinutes: minutes('loadMinutes'),
      cycleMinutes: minutes('cycleMinutes'),
      tools: program.tools.map(({ tool }) => ({ tool, minutes: minutes(cutterField(tool)) })),
    };
    const done = await perform(
      (by, key) => answered(server.POST('/api/programs', { body: { key, by, ...body } })),
      (made) => `Revision ${made.revision} of ${model} ${kind} ${operation} is the program from now on`,
    );
    if (done) onDone();
    return done !== null;
  };
  return (
    <Form draft={draft} refusal={refusal} lay="stack" style={{ gap: 8 }} onFile={file}>
      <Row>
        {FIELDS.map(({ key, label, limits }) => (
          <AskNumber key={key} name={key} label={label} unit="min" {...limits} width={140} />
        ))}
        {program.tools.map(({ tool }) => (
          <AskNumber
            key={tool}
            name={cutterField(tool)}
            label={tool}
            unit="min"
            {...MAY_BE.minutes}
            width={140}
          />
        ))}
      </Row>
      <Row>
        <AskWords
          name="note"
          label="What changed"
          needed="whoever reads the revision wants to know"
          width={320}
        />
        <Button type="submit" variant="contained" disabled={busy}>
          Make revision {revision + 1}
        </Button>
      </Row>
    </Form>
  );
}

function Changes({ station, name, zone }: { station: string; name: string; zone: string }) {
  const { data: changes, error } = useCutterChanges(station);
  return (
    <Panel label={`Cutter changes, ${name}`}>
      <Typography variant="h2">Cutters changed, {name}</Typography>
      {!changes && <Typography color="textSecondary">{error?.message ?? 'Opening…'}</Typography>}
      {changes && (
        <DataTable
          name={`cutter-changes-${station}`}
          label={`Cutter changes, ${name}`}
          noun="change"
          rows={changes}
          rowKey={({ at, tool }) => `${at}${tool}`}
          columns={[
            moment<CutterChange>({ key: 'at', head: 'when', ms: ({ at }) => Date.parse(at), zone }),
            { key: 'tool', head: 'cutter', of: ({ tool }) => tool, choice: true },
            { key: 'reason', head: 'why', of: ({ reason, person }) => `${reason}, ${person}`, share: 1.4 },
            { key: 'used', head: 'used, min', of: ({ usedMinutes }) => usedMinutes, digits: 0 },
          ]}
          empty="No change logged yet."
          tallest="360px"
        />
      )}
    </Panel>
  );
}
