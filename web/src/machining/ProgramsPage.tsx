import { Button, TextField } from '@mui/material';
import { useState } from 'react';
import { answered, server } from '../api/client.ts';
import { useFloor } from '../api/queries.ts';
import { sayDate, sayTime } from '../shared/time.ts';
import { typedNumber } from '../shared/typed.ts';
import { usePerform } from '../shared/usePerform.ts';
import { Refused } from '../devices/Refused.tsx';
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
  if (!programs) return <p className="title">{error?.message ?? 'Opening…'}</p>;
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
    <>
      <div className="title">
        <h1>Programs & cutters</h1>
        <MillNav />
      </div>
      <div className="columns">
        <section className="panel" aria-label="Programs">
          <h2>
            Programs{' '}
            <span className="quiet smallhead">the next load after a new revision asks for a first piece</span>
          </h2>
          <table>
            <thead>
              <tr>
                {['program', 'set-up', 'load', 'cycle', 'by the machine', 'cutters, minutes a cycle', ''].map(
                  (head) => (
                    <th key={head} scope="col">
                      {head}
                    </th>
                  ),
                )}
              </tr>
            </thead>
            <tbody>
              {newest.map((program) => (
                <ProgramLine
                  key={nameOf(program)}
                  program={program}
                  real={real.get(nameOf(program))}
                  zone={zone}
                />
              ))}
            </tbody>
          </table>
        </section>
        <div className="stack">
          {mills.map(({ code, name }) => (
            <Changes key={code} station={code} name={name} zone={zone} nowMs={floor?.nowMs ?? 0} />
          ))}
        </div>
      </div>
    </>
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
      <tr>
        <td>
          <strong>{nameOf(program)}</strong>
          <div className="quiet">
            {note} · {person ?? 'nobody'}, {sayDate(Date.parse(madeAt), zone)}
          </div>
        </td>
        <td>{program.setUpMinutes} min</td>
        <td>{program.loadMinutes} min</td>
        <td>{program.cycleMinutes} min</td>
        <td>{real ? `${real.minutes.toFixed(1)} min (${real.cycles})` : 'not heard'}</td>
        <td>{tools.map(({ tool, minutes }) => `${tool} ${minutes}`).join(', ')}</td>
        <td>
          <Button onClick={() => setOpen(!open)} aria-label={`New revision of ${nameOf(program)}`}>
            Revise
          </Button>
        </td>
      </tr>
      {open && (
        <tr>
          <td colSpan={7}>
            <ReviseForm program={program} onDone={() => setOpen(false)} />
          </td>
        </tr>
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
    <form
      className="stack"
      style={{ gap: 8 }}
      onSubmit={(event) => {
        event.preventDefault();
        void file();
      }}
    >
      <div className="row">
        {FIELDS.map(({ key, label }) => field(key, label))}
        {program.tools.map(({ tool }) => field(tool, `${tool}, min`))}
      </div>
      <div className="row">
        <TextField
          label="What changed"
          value={note}
          onChange={(event) => setNote(event.target.value)}
          sx={{ width: 320 }}
        />
        <Button type="submit" variant="contained" disabled={busy || !ready}>
          Make revision {program.revision + 1}
        </Button>
      </div>
      <Refused words={refused} />
    </form>
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
    <section className="panel" aria-label={`Cutter changes, ${name}`}>
      <h2>Cutters changed, {name}</h2>
      {!changes && <p className="quiet">{error?.message ?? 'Opening…'}</p>}
      {changes?.length === 0 && <p className="quiet">No change logged yet.</p>}
      <table>
        <tbody>
          {changes?.map((change, i) => (
            <tr key={i}>
              <td>{sayTime(Date.parse(change.at), zone, nowMs)}</td>
              <td>
                {change.tool}
                <div className="quiet">
                  {change.reason}, {change.person}
                </div>
              </td>
              <td className="number">{change.usedMinutes.toFixed(0)} min</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
