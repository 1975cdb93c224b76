import {
  Button,
  IconButton,
  Stack,
  Table,
  TableBody,
  TableCell,
  TableHead,
  TableRow,
  Typography,
} from '@mui/material';
import Close from '@mui/icons-material/Close';
import { useWatch } from 'react-hook-form';
import { Link, useParams } from 'react-router';
import { answered, server } from '../api/client.ts';
import { AssemblyNav } from '../assembly/AssemblyNav.tsx';
import { AskChoice, AskNumber, AskSeveral, AskWords, Form, useDraft, useKeptState } from '../fields/index.ts';
import {
  Columns,
  EmptyState,
  ModelTabs,
  Opening,
  Page,
  Panel,
  PlainList,
  Quiet,
  Revising,
  Row,
} from '../parts/index.ts';
import { useOptionBooks, type OptionBook } from '../orders/queries.ts';
import { numberOf } from '../shared/typed.ts';
import { usePerform } from '../shared/usePerform.ts';
import { useBills, useParts, type Bill, type BillLine, type Part } from './queries.ts';
import { givenWords } from './words.ts';

/** Which parts the kit of a model wants, by its options. */
export default function BillsPage() {
  const { model } = useParams();
  const { data: bills, error } = useBills();
  const { data: parts } = useParts();
  const { data: books } = useOptionBooks();
  if (!bills || !parts || !books) return <Opening error={error} />;
  const bill = bills.find((one) => one.model === model) ?? bills[0];
  const book = books.find((one) => one.model === bill?.model);
  return (
    <Page
      title="Bills of parts"
      tabs={
        <>
          <AssemblyNav />
          <ModelTabs
            models={bills.map((one) => one.model)}
            shown={bill?.model}
            to={(one) => `/kits/bills/${one}`}
          />
        </>
      }
    >
      {bill && book ? (
        // Revised, by whomever, it begins anew.
        <Drawn key={`${bill.model} ${bill.revision}`} bill={bill} book={book} parts={parts} />
      ) : (
        <EmptyState>No model has a route yet: what it wants hangs on what can be built.</EmptyState>
      )}
    </Page>
  );
}

const areLines = (kept: unknown): kept is BillLine[] =>
  Array.isArray(kept) &&
  kept.every(
    (line: unknown) => typeof line === 'object' && line !== null && 'slot' in line && 'part' in line,
  );

function Drawn({ bill, book, parts }: { bill: Bill; book: OptionBook; parts: readonly Part[] }) {
  const { model, revision, hints } = bill;
  const [lines, setLines] = useKeptState<BillLine[]>(`bill ${model} ${revision}`, bill.lines, areLines);
  const { perform, busy, refused } = usePerform();
  const isChanged = JSON.stringify(lines) !== JSON.stringify(bill.lines);
  const save = (): void =>
    void perform(
      (by, key) =>
        answered(
          server.PUT('/api/bills/{model}', {
            params: { path: { model } },
            body: { by, key, revision, lines },
          }),
        ),
      () => `The kits of ${model} are picked so from now on. Bins that are picked stay as they are.`,
    );
  return (
    <Columns>
      <Panel label={`Parts of ${model}`}>
        <Typography variant="h2">
          {model} <Quiet small>{revision === 0 ? 'has no bill yet' : `revision ${revision}`}</Quiet>
        </Typography>
        <Lines lines={lines} book={book} parts={parts} onLines={setLines} />
      </Panel>
      <Stack>
        <Panel label="Another line">
          <Typography variant="h2">Another line</Typography>
          <NewLine model={model} book={book} parts={parts} onAdd={(line) => setLines([...lines, line])} />
        </Panel>
        <Revising
          does="Pick it so"
          back="Back to what is picked"
          words={{
            changed: 'Changed and not picked so yet. What cannot be is refused with the reason.',
            same: 'Kits are picked by this now.',
          }}
          {...{ isChanged, busy, refused }}
          onSave={save}
          onBack={() => setLines(bill.lines)}
        >
          {!isChanged && hints.length > 0 && (
            <>
              <Typography className="attention" sx={{ marginTop: '8px' }}>
                Is that meant?
              </Typography>
              <PlainList>
                {hints.map((hint) => (
                  <li key={hint}>{hint}</li>
                ))}
              </PlainList>
            </>
          )}
        </Revising>
      </Stack>
    </Columns>
  );
}

function Lines(props: {
  lines: BillLine[];
  book: OptionBook;
  parts: readonly Part[];
  onLines: (lines: BillLine[]) => void;
}) {
  const { lines, book, parts, onLines } = props;
  const nameOf = (option: string, value?: string): string => {
    const known = book.options.find(({ key }) => key === option);
    if (value === undefined) return known?.name ?? option;
    return known?.values.find(({ code }) => code === value)?.name ?? value;
  };
  const partName = (code: string): string => parts.find((part) => part.code === code)?.name ?? code;
  if (lines.length === 0) return <EmptyState>Its kit wants nothing yet.</EmptyState>;
  return (
    <Table size="small" aria-label="Parts of the kit">
      <TableHead>
        <TableRow>
          <TableCell>for</TableCell>
          <TableCell align="right">so many</TableCell>
          <TableCell>part</TableCell>
          <TableCell>in the kit when</TableCell>
          <TableCell>may stand in</TableCell>
          <TableCell />
        </TableRow>
      </TableHead>
      <TableBody>
        {lines.map((line, i) => (
          <TableRow key={`${line.slot}${line.part}${i}`}>
            <TableCell>
              <strong>{line.slot}</strong>
            </TableCell>
            <TableCell align="right">{line.quantity}</TableCell>
            <TableCell>
              {partName(line.part)}{' '}
              <Link to={`/kits/parts/${line.part}`} className="codelink">
                {line.part}
              </Link>
            </TableCell>
            <TableCell>{givenWords(line.when, nameOf) || <Quiet>always</Quiet>}</TableCell>
            <TableCell>
              {(line.instead ?? []).map(({ part, when }) => (
                <div key={part}>
                  {partName(part)} {(when ?? []).length > 0 && <Quiet>if {givenWords(when, nameOf)}</Quiet>}
                </div>
              ))}
            </TableCell>
            <TableCell padding="none">
              <IconButton
                size="small"
                aria-label={`Take ${line.slot} ${line.part} out`}
                onClick={() => onLines(lines.filter((_, other) => other !== i))}
              >
                <Close fontSize="small" />
              </IconButton>
            </TableCell>
          </TableRow>
        ))}
      </TableBody>
    </Table>
  );
}

const BEGIN = { slot: '', part: '', quantity: '1', option: '', values: [] as string[], instead: '' };

function NewLine(props: {
  model: string;
  book: OptionBook;
  parts: readonly Part[];
  onAdd: (line: BillLine) => void;
}) {
  const { model, book, parts, onAdd } = props;
  const draft = useDraft(`bill line ${model}`, BEGIN);
  const { option = '', part: chosen = '' } = useWatch({ control: draft.form.control });
  const offered = parts.map(({ code, name }) => ({ value: code, words: `${name}, ${code}` }));
  const values = (book.options.find(({ key }) => key === option)?.values ?? []).map(({ code, name }) => ({
    value: code,
    words: name,
  }));
  const add = ({ slot, part, quantity, values: given, instead }: typeof BEGIN): boolean => {
    onAdd({
      ...{ slot: slot.trim(), part, quantity: numberOf(quantity) },
      ...(option === '' ? {} : { when: [{ option, values: given }] }),
      ...(instead === '' ? {} : { instead: [{ part: instead }] }),
    });
    return true;
  };
  return (
    <Form draft={draft} label="Another line" lay="stack" onFile={add}>
      <Row>
        <AskWords name="slot" label="What it is for" most={40} needed="tuners, bridge" width={170} />
        <AskNumber name="quantity" label="So many" least={1} most={500} whole width={100} />
      </Row>
      <AskChoice name="part" label="Part" options={offered} needed="which part" width={290} />
      <AskChoice
        name="option"
        label="In the kit when"
        options={book.options.map(({ key, name }) => ({ value: key, words: name }))}
        none="always"
        width={290}
      />
      {option !== '' && <AskSeveral name="values" label="is one of" options={values} needed="one at least" />}
      <AskChoice
        name="instead"
        label="May stand in"
        options={offered.filter(({ value }) => value !== chosen)}
        none="nothing"
        width={290}
      />
      <Button type="submit" variant="outlined">
        Add the line
      </Button>
    </Form>
  );
}
