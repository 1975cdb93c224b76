import { SERIAL_TOKENS, serialProblems } from '@ample-crane/core';
import { Box, Button, Table, TableBody, TableCell, TableHead, TableRow, Typography } from '@mui/material';
import { useQuery } from '@tanstack/react-query';
import { useWatch } from 'react-hook-form';
import { answered, server, type Schemas } from '../api/client.ts';
import { LastChange } from '../changes/LastChange.tsx';
import { useSeenChange } from '../changes/useSeenChange.ts';
import { Verdict } from '../devices/Verdict.tsx';
import { AskText, AskWords, Form, useDraft } from '../fields/index.ts';
import { Columns, Opening, Page, Panel, Quiet, Row } from '../parts/index.ts';
import { usePerform } from '../shared/usePerform.ts';
import { AssemblyNav } from './AssemblyNav.tsx';
import { useSerials, type Serials } from './queries.ts';
import { rangesOf, rangeWords } from './ranges.ts';

/** How serials are made: a pattern with a live preview, the letters of the models, what paper has used. */
export default function SerialsPage() {
  const { data, error } = useSerials();
  if (!data) return <Opening error={error} />;
  return (
    <Page title="Serials" tabs={<AssemblyNav />}>
      {/* Changed, by whomever, it begins anew; what was typed meanwhile is kept. */}
      <PatternForm key={JSON.stringify([data.pattern, data.letters, data.onPaper])} serials={data} />
    </Page>
  );
}

type Setting = Schemas['SerialSettingDto'];

function PatternForm({ serials }: { serials: Serials }) {
  const { perform, busy, refusal } = usePerform();
  const { lastChange, lookAgain } = useSeenChange();
  const models = serials.next.map(({ model }) => model);
  const lettersOf = (model: string): string =>
    serials.letters.find((one) => one.model === model)?.letters ?? '';
  const begin: Record<string, string> = {
    pattern: serials.pattern,
    onPaper: serials.onPaper.map(rangeWords).join('\n'),
    ...Object.fromEntries(models.map((model) => [fieldOf(model), lettersOf(model)])),
  };
  const draft = useDraft('serials', begin);
  const typed = useWatch({ control: draft.form.control }) as Record<string, string>;
  const settingOf = (values: Record<string, string>): Setting => ({
    pattern: values.pattern ?? '',
    letters: [
      // Those of models that get none now stay as they are.
      ...serials.letters.filter(({ model }) => !models.includes(model)),
      ...models.map((model) => ({ model, letters: values[fieldOf(model)] ?? '' })),
    ],
    onPaper: rangesOf(values.onPaper ?? '').ranges,
  });
  const preview = usePreview(settingOf(typed));
  const problems = [...serialProblems(typed.pattern ?? ''), ...(preview.data?.problems ?? [])];
  const [problem] = problems;
  const save = async (values: Record<string, string>): Promise<boolean> => {
    const done = await perform(
      (by, key) =>
        answered(
          server.PUT('/api/serials', { body: { by, key, lastChange: lastChange(), ...settingOf(values) } }),
        ),
      () => 'Serials are made so from now on.',
    );
    void lookAgain();
    return done !== null;
  };
  const add = (token: string): void =>
    draft.form.setValue('pattern', `${draft.form.getValues('pattern') ?? ''}${token}`, {
      ...{ shouldDirty: true, shouldValidate: true },
    });
  return (
    <Columns>
      <Panel label="Pattern">
        <Verdict
          tone={problem === undefined ? 'good' : 'bad'}
          sentence={
            problem === undefined
              ? `${serials.given} were given. Every number is given once and for ever.`
              : `It cannot be used: ${problem}.`
          }
        />
        <Form
          draft={draft}
          label="Serial pattern"
          lay="stack"
          refusal={refusal}
          style={{ marginTop: 10 }}
          onFile={save}
        >
          <AskWords
            name="pattern"
            label="Pattern"
            most={60}
            needed="a pattern"
            wrong={(text) => serialProblems(text)[0]}
            hint="Fixed text in capitals, and what is below in braces."
          />
          <Row role="group" aria-label="Put into the pattern">
            {SERIAL_TOKENS.map(({ token, words }) => (
              <Button key={token} size="small" onClick={() => add(token)} aria-label={`${token}: ${words}`}>
                <span className="condensed">{token}</span>&nbsp;<Quiet>{words}</Quiet>
              </Button>
            ))}
          </Row>
          <Row>
            {models.map((model) => (
              <AskWords
                key={model}
                name={fieldOf(model)}
                label={`Letters of ${model}`}
                capitals
                most={6}
                wrong={(text) => (/^[A-Z0-9]*$/.test(text) ? undefined : 'capitals and digits')}
                width={150}
              />
            ))}
          </Row>
          <AskText
            name="onPaper"
            label="Used on paper already: first and last, a line each"
            placeholder="BW2632001A BW2632040Z"
            wrong={(text) => rangesOf(text).problem ?? undefined}
          />
          <Row>
            <Button type="submit" variant="contained" disabled={busy || problem !== undefined}>
              Make serials so
            </Button>
            <Button onClick={draft.leave}>Back to what it was</Button>
          </Row>
        </Form>
        <LastChange setting="serials" name="pattern" />
      </Panel>
      <Panel label="What comes next">
        <Typography variant="h2">What comes next</Typography>
        <Table>
          <TableHead>
            <TableRow>
              <TableCell scope="col">model</TableCell>
              <TableCell scope="col">its next serial</TableCell>
            </TableRow>
          </TableHead>
          <TableBody>
            {(preview.data?.next ?? serials.next).map(({ model, serial, problem: why }) => (
              <TableRow key={model}>
                <TableCell>{model}</TableCell>
                <TableCell>
                  {serial === null ? (
                    <span className="attention">{why}</span>
                  ) : (
                    <Box component="span" className="condensed" sx={{ fontSize: 20 }}>
                      {serial}
                    </Box>
                  )}
                </TableCell>
              </TableRow>
            ))}
          </TableBody>
        </Table>
        <Typography color="textSecondary" style={{ marginTop: 8 }}>
          As it would be given now. What was given and taken back, or scrapped, is not given again.
        </Typography>
      </Panel>
    </Columns>
  );
}

/** A field of a form has no dots or blanks in its name. */
const fieldOf = (model: string): string => `letters ${model}`.replaceAll(/\W/g, '_');

/** What a pattern that could be used would give; asked of the server, which knows the last number. */
function usePreview(setting: Setting) {
  return useQuery({
    queryKey: ['serials', 'preview', setting],
    queryFn: () => answered(server.POST('/api/serials/preview', { body: setting })),
    enabled: serialProblems(setting.pattern).length === 0,
    placeholderData: (before) => before,
  });
}
