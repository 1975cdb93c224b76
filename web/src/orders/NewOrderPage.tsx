import { checkOptions, count, LARGEST_BATCH, nearestWorkingDays, withUsual } from '@ample-crane/core';
import { Box, Button, IconButton, Stack, Typography } from '@mui/material';
import Close from '@mui/icons-material/Close';
import { useWatch } from 'react-hook-form';
import { useNavigate } from 'react-router';
import { answered, server, type Schemas } from '../api/client.ts';
import { useFloor, useSetup, type Floor, type Setup } from '../api/queries.ts';
import {
  AskChoice,
  AskDay,
  AskNumber,
  AskWords,
  Form,
  isText,
  useDraft,
  useKeptState,
} from '../fields/index.ts';
import { Columns, EmptyState, Opening, Page, Panel, Quiet, Row } from '../parts/index.ts';
import { dueInstant, isoDate } from '../shared/time.ts';
import { maybeWords, numberOf } from '../shared/typed.ts';
import { filedWords, usePerform } from '../shared/usePerform.ts';
import { OrdersNav } from './OrdersNav.tsx';
import { useOptionBooks, type OptionBook } from './queries.ts';

type Line = Schemas['PlaceOrderDto']['lines'][number];

const areLines = (kept: unknown): kept is Line[] =>
  Array.isArray(kept) &&
  kept.every(
    (line: unknown) => typeof line === 'object' && line !== null && 'model' in line && 'quantity' in line,
  );

const DAY_MS = 24 * 3_600_000;
/** Offered as a due day until somebody says another. */
const USUAL_LEAD_DAYS = 84;

/** An order, line by line: what goes together is said while it is chosen. */
export default function NewOrderPage() {
  const { data: floor } = useFloor();
  const { data: setup } = useSetup();
  const { data: books, error } = useOptionBooks();
  if (!floor || !setup || !books) return <Opening error={error} />;
  return (
    <Page title="New order" tabs={<OrdersNav />}>
      <NewOrder floor={floor} setup={setup} books={books} />
    </Page>
  );
}

function NewOrder({ floor, setup, books }: { floor: Floor; setup: Setup; books: readonly OptionBook[] }) {
  const [lines, setLines] = useKeptState<Line[]>('order-lines', [], areLines);
  const { perform, busy, refusal } = usePerform();
  const navigate = useNavigate();
  const lead = isoDate(floor.nowMs + USUAL_LEAD_DAYS * DAY_MS, floor.zone);
  const draft = useDraft('order', {
    ...{ customer: '', reference: '' },
    dueAt: nearestWorkingDays(setup.calendar, lead).after ?? lead,
  });
  const place = async (values: { customer: string; reference: string; dueAt: string }): Promise<boolean> => {
    const { customer, reference, dueAt } = values;
    const done = await perform(
      (by, key) =>
        answered(
          server.POST('/api/orders', {
            body: {
              ...{ by, key, lines, dueAt: dueInstant(dueAt, floor.zone) },
              ...maybeWords('customer', customer),
              ...maybeWords('reference', reference),
            },
          }),
        ),
      filedWords,
    );
    if (!done) return false;
    setLines([]);
    const [entry] = done.entries;
    if (entry) void navigate(`/orders/${entry.batch}`);
    return true;
  };
  return (
    <Columns even>
      <LineForm books={books} onAdd={(line) => setLines([...lines, line])} />
      <Panel label="The order">
        <Typography variant="h2">The order</Typography>
        {lines.length === 0 ? (
          <EmptyState>Choose what is ordered, and add it: an order has a line at least.</EmptyState>
        ) : (
          <Stack sx={{ marginBottom: '12px' }}>
            {lines.map((line, i) => (
              <Chosen
                key={`${i} ${JSON.stringify(line)}`}
                line={line}
                book={books.find(({ model }) => model === line.model)}
                onDrop={() => setLines(lines.filter((_, other) => other !== i))}
              />
            ))}
          </Stack>
        )}
        <Form draft={draft} label="Place an order" lay="stack" refusal={refusal} onFile={place}>
          <AskWords name="customer" label="For whom" most={120} hint="Empty: it is built for stock." />
          <Row>
            <AskWords name="reference" label="Their number" most={60} width={170} />
            <AskDay name="dueAt" label="Due" zone={floor.zone} needed="a day" width={170} />
          </Row>
          <Button type="submit" variant="contained" disabled={busy || lines.length === 0}>
            Place the order:{' '}
            {count(
              lines.reduce((sum, { quantity }) => sum + quantity, 0),
              'instrument',
            )}
          </Button>
        </Form>
      </Panel>
    </Columns>
  );
}

function Chosen({ line, book, onDrop }: { line: Line; book: OptionBook | undefined; onDrop: () => void }) {
  const { quantity, model, label, choices = {} } = line;
  const options = (book?.options ?? []).map(({ key, name, values }) => {
    const value = values.find(({ code }) => code === choices[key]);
    return `${name} ${value?.name ?? choices[key] ?? ''}`;
  });
  return (
    <Row style={{ alignItems: 'flex-start', flexWrap: 'nowrap' }}>
      <Box sx={{ flex: 1 }}>
        <strong>
          {quantity} × {model}
        </strong>
        {label !== undefined && <bdi> “{label}”</bdi>}
        <Quiet block>{options.join(' · ')}</Quiet>
      </Box>
      <IconButton size="small" aria-label={`Take ${quantity} × ${model} out`} onClick={onDrop}>
        <Close fontSize="small" />
      </IconButton>
    </Row>
  );
}

/** A wish for a weight has two ends, the lower first. */
function wrongWish(
  low: string,
  high: string,
): { field: 'line-low' | 'line-high'; words: string } | undefined {
  if (low === '' && high === '') return undefined;
  if (low === '') return { field: 'line-low', words: 'from how much' };
  if (high === '') return { field: 'line-high', words: 'to how much' };
  return numberOf(low) < numberOf(high) ? undefined : { field: 'line-high', words: 'more than from' };
}

const FIRST_QUANTITY = '1';

function LineForm({ books, onAdd }: { books: readonly OptionBook[]; onAdd: (line: Line) => void }) {
  const [model, setModel] = useKeptState<string>('order-model', books[0]?.model ?? '', isText);
  const book = books.find((one) => one.model === model) ?? books[0];
  if (!book) return <EmptyState>No model has a route yet.</EmptyState>;
  return <ModelForm key={book.model} book={book} books={books} onModel={setModel} onAdd={onAdd} />;
}

function ModelForm(props: {
  book: OptionBook;
  books: readonly OptionBook[];
  onModel: (model: string) => void;
  onAdd: (line: Line) => void;
}) {
  const { book, books, onModel, onAdd } = props;
  const begin: Record<string, string> = {
    ...{ 'line-quantity': FIRST_QUANTITY, 'line-label': '', 'line-low': '', 'line-high': '' },
    ...withUsual(book, {}),
  };
  const draft = useDraft(`order line ${book.model}`, begin);
  const typed = useWatch({ control: draft.form.control }) as Record<string, string>;
  const choices = Object.fromEntries(book.options.map(({ key }) => [key, typed[key] ?? '']));
  const problems = checkOptions(choices, book);
  const touching = (key: string) => problems.filter(({ options }) => options.some((one) => one === key));
  const add = (values: Record<string, string>): boolean => {
    const { 'line-low': low = '', 'line-high': high = '' } = values;
    const wrong = wrongWish(low, high);
    if (wrong) {
      draft.form.setError(wrong.field, { message: wrong.words }, { shouldFocus: true });
      return false;
    }
    const wish = low === '' ? {} : { weightKg: { low: numberOf(low), high: numberOf(high) } };
    onAdd({
      ...wish,
      ...{ model: book.model, quantity: numberOf(values['line-quantity'] ?? ''), choices },
      ...maybeWords('label', values['line-label'] ?? ''),
    });
    return true;
  };
  return (
    <Form draft={draft} label="What is ordered" lay="stack" panel onFile={add}>
      <Typography variant="h2">What is ordered</Typography>
      <Row role="group" aria-label="Model">
        {books.map(({ model }) => (
          <Button
            key={model}
            size="small"
            variant={model === book.model ? 'contained' : 'outlined'}
            aria-pressed={model === book.model}
            onClick={() => onModel(model)}
          >
            {model}
          </Button>
        ))}
      </Row>
      <Row>
        <AskNumber name="line-quantity" label="How many" least={1} most={LARGEST_BATCH} whole width={110} />
        <AskWords name="line-label" label="Name on its label" most={40} width={220} />
      </Row>
      <Row>
        <AskNumber name="line-low" label="Weighs from" unit="kg" above={0} most={50} optional width={120} />
        <AskNumber name="line-high" label="Weighs to" unit="kg" above={0} most={50} optional width={120} />
      </Row>
      <Box
        sx={{
          display: 'grid',
          gridTemplateColumns: 'repeat(auto-fill, minmax(170px, 1fr))',
          gap: '10px',
          '& .MuiTextField-root': { width: '100%' },
        }}
      >
        {book.options.map(({ key, name, values }) => (
          <Box key={key} className={touching(key).length > 0 ? 'attention' : undefined}>
            <AskChoice
              name={key}
              label={name}
              options={values.map(({ code, name: words }) => ({ value: code, words }))}
              needed="what it is to be"
            />
          </Box>
        ))}
      </Box>
      {book.options.length === 0 && <Quiet>{book.model} sells no options yet.</Quiet>}
      {problems.map(({ sentence }) => (
        <Typography key={sentence} className="attention" role="alert">
          {sentence}.
        </Typography>
      ))}
      <Button type="submit" variant="outlined" disabled={problems.length > 0}>
        Add to the order
      </Button>
    </Form>
  );
}
