import { compareRoutes, validateRoute, type Route, type RouteProblem } from '@ample-crane/core';
import {
  Box,
  Button,
  Link as MuiLink,
  ListItem,
  MenuItem,
  Stack,
  Table,
  TableBody,
  TableCell,
  TableRow,
  TextField,
  Typography,
} from '@mui/material';
import { useEffect, useMemo, useState } from 'react';
import { useParams } from 'react-router';
import { answered, server } from '../api/client.ts';
import { useFloor, useSetup, type Floor, type Setup } from '../api/queries.ts';
import { usePerform } from '../shared/usePerform.ts';
import { Verdict } from '../devices/Verdict.tsx';
import { Choice } from '../fields/Choice.tsx';
import { FileButton } from '../fields/FileButton.tsx';
import { AskWords, Form, useDraft } from '../fields/index.ts';
import { EmptyState, Opening, Page, Panel, PlainList, Quiet, Refused, Row } from '../parts/index.ts';
import { SubNav } from '../shared/SubNav.tsx';
import {
  added,
  connected,
  disconnected,
  draftOf,
  exported,
  imported,
  removed,
  routeOf,
  withOperation,
  keptDraft,
  type Draft,
} from './draft.ts';
import { OperationForm, type FactoryNames } from './OperationForm.tsx';
import { useModelRoutes, useRoute, useRoutes, type RouteSummary } from './queries.ts';
import { RouteCanvas } from './RouteCanvas.tsx';
import { WaysTable } from './WaysTable.tsx';
import './RoutePage.css';

/** The route of a model and kind as a drawing, to be read, changed, compared and made a new revision of. */
export default function RoutePage() {
  const { model = '', kind = '' } = useParams();
  const { data: routes, error } = useModelRoutes(model);
  const { data: summaries } = useRoutes();
  const { data: floor } = useFloor();
  const { data: setup } = useSetup();
  if (!routes || !floor || !setup || !summaries) return <Opening error={error} />;
  const route = routes.find((one) => one.kind === kind);
  if (!route)
    return (
      <EmptyState>
        {model} has no route of kind {kind}.
      </EmptyState>
    );
  return (
    <RouteDesk
      key={`${route.id}`}
      route={route}
      routes={routes}
      summaries={summaries.filter((one) => one.model === model && one.kind === kind)}
      floor={floor}
      setup={setup}
    />
  );
}

const keptKey = ({ model, kind, revision }: Route): string => `route-draft:${model}:${kind}:${revision}`;

/** A draft left here earlier, from the same revision; nothing drawn is lost by leaving the page. */
function leftHere(route: Route): Draft | null {
  try {
    return keptDraft(JSON.parse(localStorage.getItem(keptKey(route)) ?? 'null'), route);
  } catch {
    return null;
  }
}

function RouteDesk({
  route,
  routes,
  summaries,
  floor,
  setup,
}: {
  route: Route;
  routes: Route[];
  summaries: readonly RouteSummary[];
  floor: Floor;
  setup: Setup;
}) {
  const [history, setHistory] = useState<Draft[]>(() => [leftHere(route) ?? draftOf(route)]);
  const [selected, setSelected] = useState<string | null>(null);
  const [tab, setTab] = useState<'operation' | 'ways' | 'revisions'>('operation');
  const draft = history.at(-1) ?? draftOf(route);
  const change = (next: Draft): void => setHistory((before) => [...before.slice(-60), next]);
  const touched = JSON.stringify(draft.operations) !== JSON.stringify(draftOf(route).operations);
  useEffect(() => {
    if (touched) localStorage.setItem(keptKey(route), JSON.stringify(draft));
    else localStorage.removeItem(keptKey(route));
  }, [draft, route, touched]);
  const names: FactoryNames = { stations: floor.stations, rooms: setup.rooms, kinds: setup.kinds };
  const problems = useMemo(
    () =>
      validateRoute(routeOf(draft), {
        stations: floor.stations.map(({ code }) => code),
        rooms: setup.rooms,
        others: routes.filter((other) => other.kind !== draft.kind),
      }),
    [draft, floor.stations, setup.rooms, routes],
  );
  const operation = draft.operations.find(({ key }) => key === selected);
  const stationName = (code: string): string => floor.stations.find((one) => one.code === code)?.name ?? code;
  return (
    <Page
      title={
        <>
          {route.model}, kind {route.kind}
        </>
      }
      tabs={
        <>
          <Quiet>revision {route.revision}</Quiet>
          <SubNav
            label={`Routes of ${route.model}`}
            pages={[
              ...routes.map((one) => ({
                to: `/routes/${encodeURIComponent(one.model)}/${one.kind}`,
                name: one.kind,
              })),
              { to: '/routes', name: 'All routes', end: true },
            ]}
          />
        </>
      }
    >
      <Box className="routedesk">
        <Stack>
          <Problems problems={problems} draft={draft} touched={touched} onSelect={setSelected} />
          <RouteCanvas
            draft={draft}
            problems={problems}
            stationName={stationName}
            selected={selected}
            onSelect={(key) => {
              setSelected(key);
              if (key !== null) setTab('operation');
            }}
            onConnect={(from, to) => change(connected(draft, from, to))}
            onDisconnect={(from, to) => change(disconnected(draft, from, to))}
            onRemove={(key) => change(removed(draft, key))}
          />
          <Toolbar
            draft={draft}
            selected={selected}
            canUndo={history.length > 1}
            onUndo={() => setHistory((before) => before.slice(0, -1))}
            onAdd={() => {
              const after = selected ?? draft.operations.at(-1)?.key ?? '';
              const made = added(draft, after, operation?.stations[0] ?? floor.stations[0]?.code ?? '');
              change(made.draft);
              setSelected(made.key);
              setTab('operation');
            }}
            onRemove={() => {
              if (selected === null) return;
              change(removed(draft, selected));
              setSelected(null);
            }}
            onImport={change}
          />
          <SaveForm
            draft={draft}
            touched={touched}
            problems={problems}
            onMade={() => localStorage.removeItem(keptKey(route))}
          />
        </Stack>
        <Panel stack>
          <Row role="tablist" aria-label="Beside the drawing">
            {(['operation', 'ways', 'revisions'] as const).map((one) => (
              <Button
                key={one}
                role="tab"
                aria-selected={tab === one}
                variant={tab === one ? 'contained' : 'outlined'}
                onClick={() => setTab(one)}
              >
                {one === 'operation' ? 'Operation' : one === 'ways' ? 'Ways side by side' : 'Revisions'}
              </Button>
            ))}
          </Row>
          {tab === 'operation' && (
            <>
              <OperationPicker draft={draft} selected={selected} onSelect={setSelected} />
              {operation && (
                <>
                  <Arrows draft={draft} at={operation.key} onChange={change} />
                  <OperationForm
                    key={operation.key}
                    operation={operation}
                    draft={draft}
                    names={names}
                    onChange={(next) => change(withOperation(draft, operation.key, next))}
                  />
                </>
              )}
            </>
          )}
          {tab === 'ways' &&
            (problems.length === 0 ? (
              <WaysTable route={routeOf(draft)} setup={setup} nowMs={floor.nowMs} />
            ) : (
              <Typography color="textSecondary">Ways are weighed once the route can be worked.</Typography>
            ))}
          {tab === 'revisions' && (
            <Revisions route={route} summaries={summaries} draft={touched ? draft : null} />
          )}
        </Panel>
      </Box>
    </Page>
  );
}

function Problems({
  problems,
  draft,
  touched,
  onSelect,
}: {
  problems: readonly RouteProblem[];
  draft: Draft;
  touched: boolean;
  onSelect: (key: string) => void;
}) {
  if (problems.length === 0)
    return (
      <Verdict
        tone="good"
        sentence={`${draft.operations.length} operations that can be worked${touched ? '; not made a revision yet' : ''}.`}
      />
    );
  return (
    <Verdict
      tone="bad"
      sentence={`${problems.length} thing${problems.length === 1 ? '' : 's'} to put right before it can be worked.`}
    >
      <PlainList>
        {problems.slice(0, 8).map((one) => (
          <ListItem disablePadding key={one.code + (one.operation ?? '') + one.problem}>
            {one.operation === null ? (
              one.problem
            ) : (
              <MuiLink component="button" type="button" onClick={() => onSelect(one.operation ?? '')}>
                {one.problem}
              </MuiLink>
            )}
          </ListItem>
        ))}
        {problems.length > 8 && (
          <ListItem disablePadding className="quiet">
            and {problems.length - 8} more
          </ListItem>
        )}
      </PlainList>
    </Verdict>
  );
}

function Toolbar({
  draft,
  selected,
  canUndo,
  onUndo,
  onAdd,
  onRemove,
  onImport,
}: {
  draft: Draft;
  selected: string | null;
  canUndo: boolean;
  onUndo: () => void;
  onAdd: () => void;
  onRemove: () => void;
  onImport: (draft: Draft) => void;
}) {
  const [problem, setProblem] = useState<string | null>(null);
  const take = async (chosen: File | undefined): Promise<void> => {
    if (!chosen) return;
    const read = imported(await chosen.text(), draft);
    if ('problem' in read) setProblem(`${chosen.name}: ${read.problem}. Your drawing is as it was.`);
    else {
      setProblem(null);
      onImport(read.draft);
    }
  };
  const save = (): void => {
    const url = URL.createObjectURL(new Blob([exported(draft)], { type: 'application/json' }));
    const link = document.createElement('a');
    link.href = url;
    link.download = `${draft.model}-${draft.kind}.route.json`.toLowerCase();
    link.click();
    URL.revokeObjectURL(url);
  };
  return (
    <Box>
      <Row>
        <Button onClick={onAdd}>
          {selected === null ? 'Add an operation at the end' : 'Add one after it'}
        </Button>
        <Button onClick={onRemove} disabled={selected === null}>
          Take it out
        </Button>
        <Button onClick={onUndo} disabled={!canUndo}>
          Undo
        </Button>
        <FileButton
          words="Import a file"
          label="Route file"
          accept="application/json,.json"
          onFile={(picked) => void take(picked)}
        />
        <Button onClick={save}>Export as a file</Button>
      </Row>
      <Refused words={problem} />
    </Box>
  );
}

function SaveForm({
  draft,
  touched,
  problems,
  onMade,
}: {
  draft: Draft;
  touched: boolean;
  problems: readonly RouteProblem[];
  onMade: () => void;
}) {
  const { perform, busy, refusal } = usePerform();
  const said = useDraft(`revision of ${draft.model} ${draft.kind}`, { note: '' });
  if (!touched) return null;
  const make = async ({ note }: { note: string }): Promise<boolean> => {
    const { model, kind, from, operations } = draft;
    const made = await perform(
      (by, key) =>
        answered(
          server.POST('/api/routes', {
            body: {
              ...{ key, by, model, kind, from, note: note.trim() },
              operations,
            },
          }),
        ),
      (route) => `Revision ${route.revision} of ${model} ${kind} holds for racks opened from now on`,
    );
    if (made) onMade();
    return made !== null;
  };
  return (
    <Form draft={said} refusal={refusal} lay="row" panel label="Make a revision" onFile={make}>
      <AskWords
        name="note"
        label="What changed"
        needed="whoever reads the revision wants to know"
        width={320}
      />
      <Button type="submit" variant="contained" disabled={busy || problems.length > 0}>
        Make revision {draft.from + 1}
      </Button>
    </Form>
  );
}

/** Every operation by name: what the drawing shows, for the keyboard. */
function OperationPicker({
  draft,
  selected,
  onSelect,
}: {
  draft: Draft;
  selected: string | null;
  onSelect: (key: string) => void;
}) {
  return (
    <TextField
      select
      label="Operation"
      value={selected ?? ''}
      onChange={(event) => onSelect(event.target.value)}
      helperText={selected === null ? 'choose one here or in the drawing' : undefined}
    >
      {draft.operations.map(({ key, name }) => (
        <MenuItem key={key} value={key}>
          {name}
        </MenuItem>
      ))}
    </TextField>
  );
}

/** What follows an operation, without a mouse: the first is the usual way. */
function Arrows({ draft, at, onChange }: { draft: Draft; at: string; onChange: (draft: Draft) => void }) {
  const operation = draft.operations.find(({ key }) => key === at);
  const next = operation?.next ?? [];
  const nameOf = (key: string): string => draft.operations.find((one) => one.key === key)?.name ?? key;
  return (
    <Row>
      <Quiet>{next.length === 0 ? 'Nothing follows.' : 'Goes on to'}</Quiet>
      {next.map((key, i) => (
        <Button key={key} onClick={() => onChange(disconnected(draft, at, key))} title="Take this arrow out">
          {nameOf(key)}
          {next.length > 1 && i === 0 ? ' (usual)' : ''} ✕
        </Button>
      ))}
      <Choice
        label="Add an arrow to"
        value=""
        onChange={(key) => onChange(connected(draft, at, key))}
        options={draft.operations
          .filter(({ key }) => key !== at && !next.includes(key))
          .map(({ key, name }) => ({ value: key, words: name }))}
        none="add…"
        width={190}
      />
    </Row>
  );
}

/** Two revisions against each other, or the newest against what is drawn. */
function Revisions({
  route,
  summaries,
  draft,
}: {
  route: Route;
  summaries: readonly RouteSummary[];
  draft: Draft | null;
}) {
  const older = summaries.filter(({ revision }) => revision !== route.revision);
  const [from, setFrom] = useState(older[0]?.id ?? '');
  const { data: before } = useRoute(from);
  const changes = draft ? compareRoutes(route, routeOf(draft)) : before ? compareRoutes(before, route) : [];
  return (
    <>
      <Table>
        <TableBody>
          {summaries.map((one) => (
            <TableRow key={one.id}>
              <TableCell>revision {one.revision}</TableCell>
              <TableCell>
                {one.note}
                <Quiet block>
                  {one.person ?? 'nobody'};{' '}
                  {one.batches.length > 0 ? one.batches.join(', ') : 'no rack on it'}
                </Quiet>
              </TableCell>
              <TableCell>
                <MuiLink href={`/api/routes/${one.id}/route.json`} download={`${one.id}.route.json`}>
                  File
                </MuiLink>
              </TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
      {draft ? (
        <Typography variant="h3">Drawn against revision {route.revision}</Typography>
      ) : older.length > 0 ? (
        <TextField
          select
          label={`Compare revision ${route.revision} with`}
          value={from}
          onChange={(event) => setFrom(event.target.value)}
        >
          {older.map((one) => (
            <MenuItem key={one.id} value={one.id}>
              revision {one.revision}
            </MenuItem>
          ))}
        </TextField>
      ) : (
        <Typography color="textSecondary">
          It is the only revision; what you draw is compared with it here.
        </Typography>
      )}
      {changes.length === 0 && (draft !== null || before) && (
        <Typography color="textSecondary">No difference.</Typography>
      )}
      <PlainList>
        {changes.map((one) => (
          <ListItem disablePadding key={one.operation}>
            <strong>{one.name}</strong> {one.change}
            {one.fields.map(({ field, from: was, to }) => (
              <Quiet block key={field}>
                {field}: {short(was)} → {short(to)}
              </Quiet>
            ))}
          </ListItem>
        ))}
      </PlainList>
    </>
  );
}

const short = (text: string): string => (text.length > 70 ? `${text.slice(0, 67)}…` : text);
