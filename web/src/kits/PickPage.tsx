import { count, kitPartWords, type KitPart } from '@ample-crane/core';
import {
  Button,
  Checkbox,
  FormControlLabel,
  Table,
  TableBody,
  TableCell,
  TableHead,
  TableRow,
  TextField,
  Typography,
} from '@mui/material';
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import { fileEntries } from '../api/filing.ts';
import { useBatch } from '../api/queries.ts';
import { AssemblyNav } from '../assembly/AssemblyNav.tsx';
import { Verdict } from '../devices/Verdict.tsx';
import { AskWords, Choice, Form, useDraft } from '../fields/index.ts';
import { Columns, EmptyState, Opening, Page, Panel, PlainList, Quiet, Refused, Row } from '../parts/index.ts';
import { filedWords, usePerform } from '../shared/usePerform.ts';
import { usePick, type Pick, type PickLine } from './queries.ts';
import { pickSentence } from './words.ts';

/** The bin of one instrument: each part is laid in, and ticked, by itself. */
export default function PickPage() {
  const { batch = '', position = '' } = useParams();
  const { data: pick, error } = usePick(batch, Number(position));
  if (!pick) return <Opening error={error} instead={<Link to="/kits">See the kits ahead</Link>} />;
  return (
    <Page
      title={
        <>
          {pick.piece}{' '}
          <Quiet small>
            {pick.model}
            {pick.line === null ? ', for stock' : `, for ${pick.line}`}
            {pick.label !== null && (
              <>
                {' '}
                “<bdi>{pick.label}</bdi>”
              </>
            )}
          </Quiet>
        </>
      }
      tabs={<AssemblyNav />}
    >
      <Columns>
        {/* What lies in the bin decides what is still to be ticked: filed, by whomever, it begins anew. */}
        <Picking key={`${pick.piece} ${JSON.stringify(pick.parts)}`} pick={pick} />
        <InTheBin pick={pick} />
      </Columns>
    </Page>
  );
}

const leftOf = ({ wanted, there }: PickLine): number => wanted - there;

/** What is on the shelf of a line: what its bill names first, then what may stand in. */
const onShelf = (line: PickLine): { part: string; name: string; onHand: number }[] =>
  [{ part: line.part, name: line.name, onHand: line.onHand }, ...line.instead].filter(
    ({ onHand }) => onHand >= leftOf(line),
  );

function Picking({ pick }: { pick: Pick }) {
  const { batch, position, lines, operationName, otherwise } = pick;
  const { perform, busy, refused } = usePerform();
  const [ticked, setTicked] = useState<ReadonlySet<string>>(new Set());
  const [taken, setTaken] = useState<Record<string, string>>({});
  const [bin, setBin] = useState(pick.bin ?? '');
  const [scanned, setScanned] = useState<{ words: string; problem: string | null }>({
    words: '',
    problem: null,
  });
  const open = lines.filter((line) => leftOf(line) > 0);
  const partOf = (line: PickLine): string => taken[line.slot] ?? onShelf(line)[0]?.part ?? line.part;
  const turn = (slot: string, on: boolean): void =>
    setTicked((before) => {
      const next = new Set(before);
      if (on) next.add(slot);
      else next.delete(slot);
      return next;
    });
  const scan = (): void => {
    const code = scanned.words.trim().toUpperCase();
    if (code === '') return;
    const line = open.find((one) => [one.part, ...one.instead.map(({ part }) => part)].includes(code));
    if (!line) return setScanned({ words: '', problem: `${code} does not go into this bin` });
    if (!onShelf(line).some(({ part }) => part === code))
      return setScanned({ words: '', problem: `by the store ${code} is not there: count it first` });
    setTaken({ ...taken, [line.slot]: code });
    turn(line.slot, true);
    setScanned({ words: '', problem: null });
  };
  const parts: KitPart[] = open
    .filter(({ slot }) => ticked.has(slot))
    .map((line) => ({ slot: line.slot, part: partOf(line), quantity: leftOf(line) }));
  const without = open.filter(({ slot }) => !ticked.has(slot));
  const file = (): void =>
    void perform(
      (by, key) =>
        fileEntries(batch, by, key, [
          { type: 'kit', pieces: [position], parts, ...(bin.trim() === '' ? {} : { bin: bin.trim() }) },
        ]),
      filedWords,
    );
  return (
    <Panel label="What goes in" stack>
      <Verdict {...pickSentence(pick)}>
        <Typography color="textSecondary">Wanted before {operationName}.</Typography>
      </Verdict>
      {open.length > 0 && otherwise === null && (
        <>
          <TextField
            label="Scan a part, or type its code"
            value={scanned.words}
            onChange={(event) => setScanned({ words: event.target.value, problem: null })}
            onKeyDown={(event) => {
              if (event.key === 'Enter') scan();
            }}
            error={scanned.problem !== null}
            helperText={scanned.problem ?? 'Enter ticks it: C-116'}
            sx={{ width: 260 }}
          />
          <Table size="small" aria-label="Parts to lay in">
            <TableHead>
              <TableRow>
                <TableCell>for</TableCell>
                <TableCell>part</TableCell>
                <TableCell align="right">on the shelf</TableCell>
                <TableCell>laid in</TableCell>
              </TableRow>
            </TableHead>
            <TableBody>
              {open.map((line) => (
                <ToLayIn
                  key={line.slot}
                  line={line}
                  part={partOf(line)}
                  ticked={ticked.has(line.slot)}
                  onPart={(part) => setTaken({ ...taken, [line.slot]: part })}
                  onTurn={(on) => turn(line.slot, on)}
                />
              ))}
            </TableBody>
          </Table>
          <Row style={{ alignItems: 'flex-end' }}>
            <TextField
              label="Written on the bin"
              value={bin}
              onChange={(event) => setBin(event.target.value.slice(0, 20))}
              sx={{ width: 150 }}
            />
            <Button variant="contained" disabled={busy || parts.length === 0} onClick={file}>
              {without.length === 0
                ? `File the bin: all ${open.length} laid in`
                : `File the bin: ${parts.length} of ${open.length}`}
            </Button>
          </Row>
          {parts.length > 0 && without.length > 0 && (
            <Typography className="attention">
              Without {kitPartWords(without.map((line) => ({ ...line, quantity: leftOf(line) })))}: it cannot
              be taken in hand until that is laid in.
            </Typography>
          )}
          <Refused words={refused} />
        </>
      )}
      <Next pick={pick} />
    </Panel>
  );
}

function ToLayIn(props: {
  line: PickLine;
  part: string;
  ticked: boolean;
  onPart: (part: string) => void;
  onTurn: (on: boolean) => void;
}) {
  const { line, part, ticked, onPart, onTurn } = props;
  const all = [{ part: line.part, name: line.name, onHand: line.onHand }, ...line.instead];
  const chosen = all.find((one) => one.part === part) ?? all[0];
  const left = leftOf(line);
  const isShort = (chosen?.onHand ?? 0) < left;
  return (
    <TableRow>
      <TableCell>
        <strong>{line.slot}</strong>
      </TableCell>
      <TableCell>
        {line.instead.length === 0 ? (
          <>
            {left > 1 && `${left} × `}
            {line.name} <Quiet>{line.part}</Quiet>
          </>
        ) : (
          <Choice
            label={`${left > 1 ? `${left} of ` : ''}what goes in for ${line.slot}`}
            value={part}
            options={all.map((one) => ({ value: one.part, words: `${one.name}, ${one.part}` }))}
            onChange={onPart}
            width={300}
          />
        )}
      </TableCell>
      <TableCell align="right" className={isShort ? 'attention' : undefined}>
        {chosen?.onHand ?? 0}
      </TableCell>
      <TableCell>
        <FormControlLabel
          sx={{ marginRight: 1 }}
          control={
            <Checkbox
              checked={ticked}
              disabled={isShort}
              onChange={(_, on) => onTurn(on)}
              slotProps={{ input: { 'aria-label': `${line.slot} laid in` } }}
            />
          }
          label={isShort ? '' : `${left} in`}
        />
        {isShort && <Link to={`/kits/parts/${part}`}>count it</Link>}
      </TableCell>
    </TableRow>
  );
}

/** Other instruments of the rack, to go on with. */
function Next({ pick: { batch, position } }: { pick: Pick }) {
  const { data } = useBatch(batch);
  const others = (data?.state?.pieces ?? [])
    .filter(({ standing }) => ['waiting', 'inHand', 'onHold'].includes(standing))
    .map((piece) => piece.position);
  const next = others.find((other) => other > position) ?? others.find((other) => other !== position);
  return (
    <Row>
      {next !== undefined && (
        <Button component={Link} to={`/kits/${batch}/${next}`} variant="outlined">
          Next: {batch}/{String(next).padStart(2, '0')}
        </Button>
      )}
      <Button component={Link} to="/kits">
        Kits ahead
      </Button>
    </Row>
  );
}

function InTheBin({ pick: { batch, position, parts, piece, bin } }: { pick: Pick }) {
  const { perform, busy, refusal } = usePerform();
  const draft = useDraft(`kit back ${piece}`, { because: '' });
  const putBack = async ({ because }: { because: string }): Promise<boolean> => {
    const done = await perform(
      (by, key) => fileEntries(batch, by, key, [{ type: 'kit-back', pieces: [position], because }]),
      filedWords,
    );
    return done !== null;
  };
  return (
    <Panel label="In the bin" stack>
      <Typography variant="h2">In the bin{bin === null ? '' : ` ${bin}`}</Typography>
      {parts.length === 0 && <EmptyState>Nothing yet.</EmptyState>}
      <PlainList>
        {parts.map(({ slot, part, name, quantity }) => (
          <li key={`${slot}${part}`}>
            {quantity} × {name} <Quiet>{part}</Quiet>
          </li>
        ))}
      </PlainList>
      {parts.length > 0 && (
        <Form draft={draft} label="Put it back" lay="stack" refusal={refusal} onFile={putBack}>
          <AskWords name="because" label="Why all of it goes back" needed="a reason" />
          <Button type="submit" variant="outlined" disabled={busy}>
            Put {count(parts.length, 'part')} back on the shelf
          </Button>
        </Form>
      )}
    </Panel>
  );
}
