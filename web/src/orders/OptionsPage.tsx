import { ruleWords, type OptionRule } from '@ample-crane/core';
import {
  Button,
  Chip,
  IconButton,
  Stack,
  Table,
  TableBody,
  TableCell,
  TableHead,
  TableRow,
  TextField,
  Typography,
} from '@mui/material';
import Close from '@mui/icons-material/Close';
import { useState } from 'react';
import { useParams } from 'react-router';
import { useWatch } from 'react-hook-form';
import { answered, server } from '../api/client.ts';
import { AskChoice, AskSeveral, AskTick, AskWords, Form, useDraft, useKeptState } from '../fields/index.ts';
import {
  Columns,
  EmptyState,
  ModelTabs,
  Opening,
  Page,
  Panel,
  Quiet,
  Revising,
  Row,
} from '../parts/index.ts';
import { usePerform } from '../shared/usePerform.ts';
import { OrdersNav } from './OrdersNav.tsx';
import { useOptionBooks, type OptionBook } from './queries.ts';

/** What is sold of a model: its options, where each is built in, and which of them go together. */
export default function OptionsPage() {
  const { model } = useParams();
  const { data: books, error } = useOptionBooks();
  if (!books) return <Opening error={error} />;
  const book = books.find((one) => one.model === model) ?? books[0];
  return (
    <Page
      title="Options"
      tabs={
        <>
          <OrdersNav />
          <ModelTabs
            models={books.map((one) => one.model)}
            shown={book?.model}
            to={(one) => `/orders/options/${one}`}
          />
        </>
      }
    >
      {book ? (
        // Revised, by whomever, it begins anew.
        <Book key={`${book.model} ${book.revision}`} book={book} />
      ) : (
        <EmptyState>No model has a route yet: what is sold hangs on what can be built.</EmptyState>
      )}
    </Page>
  );
}

type Sold = Pick<OptionBook, 'options' | 'rules'>;

const isSold = (kept: unknown): kept is Sold =>
  typeof kept === 'object' &&
  kept !== null &&
  'options' in kept &&
  Array.isArray(kept.options) &&
  'rules' in kept &&
  Array.isArray(kept.rules);

function Book({ book }: { book: OptionBook }) {
  const { model, revision } = book;
  const begin: Sold = { options: book.options, rules: book.rules };
  const [sold, setSold] = useKeptState<Sold>(`options ${model} ${revision}`, begin, isSold);
  const { perform, busy, refused } = usePerform();
  const isChanged = JSON.stringify(sold) !== JSON.stringify(begin);
  const save = (): void =>
    void perform(
      (by, key) =>
        answered(
          server.PUT('/api/options/{model}', {
            params: { path: { model } },
            body: { by, key, revision, ...sold },
          }),
        ),
      () => `${model} is sold so from now on. Orders that are placed keep what was sold then.`,
    );
  return (
    <Columns>
      <Stack>
        <Panel label={`Options of ${model}`}>
          <Typography variant="h2">
            {model} <Quiet small>{revision === 0 ? 'sells no options yet' : `revision ${revision}`}</Quiet>
          </Typography>
          <OptionTable sold={sold} book={book} onSold={setSold} />
        </Panel>
        <Panel label="Another option">
          <Typography variant="h2">Another option</Typography>
          <NewOption
            book={book}
            taken={sold.options.map(({ key }) => key)}
            onAdd={(option) => setSold({ ...sold, options: [...sold.options, option] })}
          />
        </Panel>
      </Stack>
      <Stack>
        <Panel label="What goes together">
          <Typography variant="h2">What goes together</Typography>
          {sold.rules.length === 0 && <EmptyState>Everything goes with everything.</EmptyState>}
          {sold.rules.map((rule, i) => (
            <Row key={JSON.stringify(rule)} style={{ flexWrap: 'nowrap', gap: 2 }}>
              <Typography sx={{ flex: 1 }}>{ruleWords(rule, sold.options)}</Typography>
              <IconButton
                size="small"
                aria-label={`Drop the rule: ${ruleWords(rule, sold.options)}`}
                onClick={() => setSold({ ...sold, rules: sold.rules.filter((_, other) => other !== i) })}
              >
                <Close fontSize="small" />
              </IconButton>
            </Row>
          ))}
          <NewRule
            model={model}
            options={sold.options}
            onAdd={(rule) => setSold({ ...sold, rules: [...sold.rules, rule] })}
          />
        </Panel>
        <HowBuilt sold={sold} book={book} onSold={setSold} />
        <Revising
          does="Sell it so"
          back="Back to what is sold"
          words={{
            changed:
              'Changed and not sold so yet. What contradicts itself, or could never be chosen, is refused with the reason.',
            same: 'This is what is sold now.',
          }}
          {...{ isChanged, busy, refused }}
          onSave={save}
          onBack={() => setSold(begin)}
        />
      </Stack>
    </Columns>
  );
}

function OptionTable(props: { sold: Sold; book: OptionBook; onSold: (sold: Sold) => void }) {
  const { sold, book, onSold } = props;
  const named = (place: string): string => book.places.find((one) => one.place === place)?.name ?? place;
  if (sold.options.length === 0) return <EmptyState>Every one of it is alike.</EmptyState>;
  return (
    <Table size="small">
      <TableHead>
        <TableRow>
          <TableCell>option</TableCell>
          <TableCell>what is sold, the usual first</TableCell>
          <TableCell>built in and confirmed at</TableCell>
          <TableCell />
        </TableRow>
      </TableHead>
      <TableBody>
        {sold.options.map((option) => {
          const change = (values: typeof option.values): void =>
            onSold({
              ...sold,
              options: sold.options.map((one) => (one.key === option.key ? { ...one, values } : one)),
            });
          return (
            <TableRow key={option.key} sx={{ verticalAlign: 'top' }}>
              <TableCell>
                <strong>{option.name}</strong>
                {option.sharesRack && <Quiet block>alike in a rack</Quiet>}
              </TableCell>
              <TableCell>
                <Row style={{ gap: 4 }}>
                  {option.values.map(({ code, name, recipe, ways }) => (
                    <Chip
                      key={code}
                      size="small"
                      variant="outlined"
                      label={[name, ...builtWords({ recipe, ways }, book)].join(' · ')}
                      {...(option.values.length > 1
                        ? { onDelete: () => change(option.values.filter((one) => one.code !== code)) }
                        : {})}
                    />
                  ))}
                  <NewValue
                    option={option.name}
                    taken={option.values.map(({ code }) => code)}
                    onAdd={(value) => change([...option.values, value])}
                  />
                </Row>
              </TableCell>
              <TableCell>{option.builtAt.map(named).join(', ') || <Quiet>nowhere</Quiet>}</TableCell>
              <TableCell padding="none">
                <IconButton
                  size="small"
                  aria-label={`Sell no ${option.name} any more`}
                  onClick={() =>
                    onSold({
                      options: sold.options.filter((one) => one.key !== option.key),
                      rules: sold.rules.filter(
                        (rule) => rule.option !== option.key && rule.other !== option.key,
                      ),
                    })
                  }
                >
                  <Close fontSize="small" />
                </IconButton>
              </TableCell>
            </TableRow>
          );
        })}
      </TableBody>
    </Table>
  );
}

type SoldValue = OptionBook['options'][number]['values'][number];

/** Recipe and ways that a value asks for, in words: 'thin lacquer', 'Copy-router after Rest (B)'. */
const builtWords = (
  { recipe, ways = {} }: Pick<SoldValue, 'recipe' | 'ways'>,
  book: OptionBook,
): string[] => [
  ...(recipe === undefined ? [] : [recipe]),
  ...Object.entries(ways).map(
    ([fork, to]) => book.ways.find((way) => way.fork === fork && way.to === to)?.name ?? to,
  ),
];

const AS_USUAL = 'as usual';
const BEGIN_BUILT = { option: '', value: '', recipe: AS_USUAL, way: AS_USUAL };

/** Which recipe, or which way through a route, makes a value: racks of it are opened so. */
function HowBuilt(props: { sold: Sold; book: OptionBook; onSold: (sold: Sold) => void }) {
  const { sold, book, onSold } = props;
  const draft = useDraft(`how built ${book.model}`, BEGIN_BUILT);
  const { option = '' } = useWatch({ control: draft.form.control });
  const usual = { value: AS_USUAL, words: AS_USUAL };
  if (sold.options.length === 0 || book.recipes.length + book.ways.length === 0) return null;
  const set = ({ option: key, value: code, recipe, way }: typeof BEGIN_BUILT): boolean => {
    const chosen = book.ways.find(({ fork, to }) => way === `${fork} ${to}`);
    const built = (value: SoldValue): SoldValue => ({
      ...{ code: value.code, name: value.name },
      ...(recipe === AS_USUAL ? {} : { recipe }),
      ...(chosen ? { ways: { [chosen.fork]: chosen.to } } : {}),
    });
    onSold({
      ...sold,
      options: sold.options.map((one) =>
        one.key === key
          ? { ...one, values: one.values.map((value) => (value.code === code ? built(value) : value)) }
          : one,
      ),
    });
    return true;
  };
  return (
    <Panel label="How a value is built">
      <Typography variant="h2">How a value is built</Typography>
      <Form draft={draft} label="How a value is built" lay="stack" onFile={set}>
        <Row>
          <AskChoice
            name="option"
            label="Option"
            options={sold.options.map(({ key, name }) => ({ value: key, words: name }))}
            needed="which option"
            width={150}
          />
          <AskChoice
            name="value"
            label="Value"
            options={(sold.options.find(({ key }) => key === option)?.values ?? []).map(({ code, name }) => ({
              value: code,
              words: name,
            }))}
            needed="which value"
            width={150}
          />
        </Row>
        {book.recipes.length > 0 && (
          <AskChoice
            name="recipe"
            label="Finished by"
            options={[usual, ...book.recipes.map((name) => ({ value: name, words: name }))]}
            width={260}
          />
        )}
        {book.ways.length > 0 && (
          <AskChoice
            name="way"
            label="Goes by"
            options={[
              usual,
              ...book.ways.map(({ fork, to, name }) => ({ value: `${fork} ${to}`, words: name })),
            ]}
            width={260}
          />
        )}
        <Button type="submit" variant="outlined">
          Build it so
        </Button>
      </Form>
    </Panel>
  );
}

/** 'Brushed brass' is typed and printed as 'brushed-brass'. */
const codeOf = (name: string): string =>
  name
    .trim()
    .toLowerCase()
    .replaceAll(/[^a-z0-9]+/g, '-')
    .replaceAll(/^-|-$/g, '');

function NewValue(props: {
  option: string;
  taken: readonly string[];
  onAdd: (value: { code: string; name: string }) => void;
}) {
  const { option, taken, onAdd } = props;
  const [name, setName] = useState('');
  const code = codeOf(name);
  const free = code !== '' && !taken.includes(code);
  const add = (): void => {
    if (!free) return;
    onAdd({ code, name: name.trim() });
    setName('');
  };
  return (
    <TextField
      value={name}
      onChange={(event) => setName(event.target.value)}
      onKeyDown={(event) => {
        if (event.key === 'Enter') add();
      }}
      placeholder="another"
      size="small"
      variant="standard"
      error={name.trim() !== '' && !free}
      slotProps={{ htmlInput: { 'aria-label': `Another value of ${option}; Enter adds it`, maxLength: 60 } }}
      sx={{ width: 110 }}
    />
  );
}

const BEGIN_OPTION = { name: '', first: '', shares: false, builtAt: [] as string[], shownAt: [] as string[] };

function NewOption(props: {
  book: OptionBook;
  taken: readonly string[];
  onAdd: (option: OptionBook['options'][number]) => void;
}) {
  const { book, taken, onAdd } = props;
  const draft = useDraft(`new option ${book.model}`, BEGIN_OPTION);
  const places = book.places.map(({ place, name }) => ({ value: place, words: name }));
  const add = ({ name, first, shares, builtAt, shownAt }: typeof BEGIN_OPTION): boolean => {
    onAdd({
      ...{ key: codeOf(name), name: name.trim(), sharesRack: shares, builtAt, shownAt },
      values: [{ code: codeOf(first), name: first.trim() }],
    });
    return true;
  };
  return (
    <Form draft={draft} label="Another option" lay="stack" onFile={add}>
      <Row>
        <AskWords
          name="name"
          label="Option"
          most={60}
          needed="what it is called"
          wrong={(text) => (taken.includes(codeOf(text)) ? 'there is one that is called so' : noCode(text))}
          width={190}
        />
        <AskWords name="first" label="What is usual" most={60} needed="a value" wrong={noCode} width={190} />
      </Row>
      <AskSeveral name="builtAt" label="Built in and confirmed at" options={places} />
      <AskSeveral name="shownAt" label="To be known of at" options={places} />
      <AskTick name="shares" label="All pieces of a rack must have it alike" />
      <Button type="submit" variant="outlined">
        Add the option
      </Button>
    </Form>
  );
}

const noCode = (text: string): string | undefined =>
  codeOf(text) === '' ? 'letters or digits, of which its code is made' : undefined;

const BEGIN_RULE = { option: '', value: '', kind: 'excludes', other: '', values: [] as string[] };

function NewRule(props: {
  model: string;
  options: OptionBook['options'];
  onAdd: (rule: OptionRule) => void;
}) {
  const { model, options, onAdd } = props;
  const draft = useDraft(`new rule ${model}`, BEGIN_RULE);
  const { option = '', other = '' } = useWatch({ control: draft.form.control });
  const valuesOf = (key: string) =>
    (options.find((one) => one.key === key)?.values ?? []).map(({ code, name }) => ({
      value: code,
      words: name,
    }));
  const named = options.map(({ key, name }) => ({ value: key, words: name }));
  const add = (rule: typeof BEGIN_RULE): boolean => {
    onAdd({ ...rule, kind: rule.kind === 'needs' ? 'needs' : 'excludes' });
    return true;
  };
  if (options.length < 2) return null;
  return (
    <Form draft={draft} label="Another rule" lay="stack" style={{ marginTop: 12 }} onFile={add}>
      <Row>
        <AskChoice name="option" label="When" options={named} needed="which option" width={130} />
        <AskChoice name="value" label="is" options={valuesOf(option)} needed="which value" width={130} />
      </Row>
      <AskChoice
        name="kind"
        label="it"
        options={[
          { value: 'excludes', words: 'does not go with' },
          { value: 'needs', words: 'needs one of' },
        ]}
        width={180}
      />
      <AskChoice
        name="other"
        label="Other option"
        options={named.filter(({ value }) => value !== option)}
        needed="which option"
        width={180}
      />
      {other !== '' && (
        <AskSeveral name="values" label="Values" options={valuesOf(other)} needed="one at least" />
      )}
      <Button type="submit" variant="outlined">
        Add the rule
      </Button>
    </Form>
  );
}
