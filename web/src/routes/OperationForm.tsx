import { CAUTIONS, cautionWords, type Check, type Operation, type OperationMode } from '@ample-crane/core';
import {
  Button,
  Checkbox,
  FormControlLabel,
  FormGroup,
  FormLabel,
  MenuItem,
  Stack,
  TextField,
} from '@mui/material';
import { Quiet, Row } from '../parts/index.ts';
import { inMode, type Draft } from './draft.ts';
import { HoldFields } from './HoldFields.tsx';
import { NumberField } from '../fields/NumberField.tsx';
import { MODE_WORDS } from './RouteCanvas.tsx';
import './OperationForm.css';

export interface FactoryNames {
  stations: readonly { code: string; name: string }[];
  rooms: readonly string[];
  kinds: readonly { letter: string; name: string }[];
}

const NEEDS = ['drying', 'rest', 'glue', 'cure', 'recoat'] as const;

/** One operation of a draft, field by field; what only other modes have is not shown. */
export function OperationForm({
  operation,
  draft,
  names,
  onChange,
}: {
  operation: Operation;
  draft: Draft;
  names: FactoryNames;
  onChange: (operation: Operation) => void;
}) {
  const set = (change: Partial<Operation>): void => onChange({ ...operation, ...change } as Operation);
  const optional = (change: Record<string, unknown>): void => {
    const kept = Object.entries({ ...operation, ...change }).filter(([, value]) => value !== undefined);
    onChange(Object.fromEntries(kept) as Operation);
  };
  return (
    <Stack style={{ gap: 10 }}>
      <TextField
        label="Name"
        value={operation.name}
        onChange={(event) => set({ name: event.target.value })}
      />
      <Row>
        <TextField
          select
          label="Mode"
          value={operation.mode}
          onChange={(event) =>
            onChange(inMode(operation, event.target.value as OperationMode, names.rooms[0] ?? ''))
          }
          sx={{ width: 190 }}
        >
          {(Object.keys(MODE_WORDS) as OperationMode[]).map((mode) => (
            <MenuItem key={mode} value={mode}>
              {MODE_WORDS[mode]}
            </MenuItem>
          ))}
        </TextField>
        <TextField
          select
          label="Stations"
          value={operation.stations}
          onChange={(event) => set({ stations: [event.target.value].flat() })}
          slotProps={{ select: { multiple: true } }}
          sx={{ minWidth: 150, flex: 1 }}
        >
          {names.stations.map(({ code, name }) => (
            <MenuItem key={code} value={code}>
              {name}
            </MenuItem>
          ))}
        </TextField>
      </Row>
      <ModeFields operation={operation} names={names} onChange={onChange} />
      <Row>
        <TextField
          select
          label="Rework goes to"
          value={operation.reworkTo ?? ''}
          onChange={(event) => set({ reworkTo: event.target.value === '' ? null : event.target.value })}
          sx={{ width: 190 }}
        >
          <MenuItem value="">nowhere: scrap</MenuItem>
          {draft.operations.map(({ key, name }) => (
            <MenuItem key={key} value={key}>
              {name}
            </MenuItem>
          ))}
        </TextField>
        <NumberField
          label="Good of 100"
          optional
          value={operation.yieldPct}
          onChange={(value) => optional({ yieldPct: value ?? undefined })}
        />
        <NumberField
          label="Cost a piece"
          optional
          value={operation.costPerPiece}
          onChange={(value) => optional({ costPerPiece: value ?? undefined })}
        />
      </Row>
      <FormGroup row className="needs" role="group" aria-label="Needs before it">
        <FormLabel>Needs before it</FormLabel>
        {NEEDS.map((need) => (
          <FormControlLabel
            key={need}
            control={
              <Checkbox
                size="small"
                checked={operation.needs?.includes(need) ?? false}
                onChange={(_, on) => {
                  const needs = NEEDS.filter((one) => (one === need ? on : operation.needs?.includes(one)));
                  optional({ needs: needs.length > 0 ? needs : undefined });
                }}
              />
            }
            label={need}
          />
        ))}
      </FormGroup>
      <Asks operation={operation} onChange={onChange} optional={optional} />
      <TextField
        label="What it risks"
        value={operation.risk ?? ''}
        onChange={(event) => optional({ risk: event.target.value === '' ? undefined : event.target.value })}
      />
      <Checks
        checks={operation.checks ?? []}
        onChange={(checks) => optional({ checks: checks.length > 0 ? checks : undefined })}
      />
      <Caution operation={operation} onChange={(caution) => set({ caution })} />
    </Stack>
  );
}

/** What is asked here besides the work: before it begins, and before it is through. */
function Asks({
  operation,
  onChange,
  optional,
}: {
  operation: Operation;
  onChange: (operation: Operation) => void;
  optional: (change: Partial<Pick<Operation, 'accepts' | 'kit' | 'serial'>>) => void;
}) {
  const { mode } = operation;
  const tick = (label: string, checked: boolean, turn: (on: boolean) => void) => (
    <FormControlLabel
      key={label}
      control={<Checkbox size="small" checked={checked} onChange={(_, on) => turn(on)} />}
      label={label}
    />
  );
  const gate = mode === 'gate' && operation.gate.kind === 'inspection' ? operation.gate : null;
  const ticks = [
    ...(['attended', 'load', 'gate'].includes(mode)
      ? [
          tick('What comes is accepted first', operation.accepts ?? false, (on) =>
            optional({ accepts: on ? true : undefined }),
          ),
        ]
      : []),
    ...(mode === 'attended'
      ? [
          tick('The kit is picked first', operation.kit ?? false, (on) =>
            optional({ kit: on ? true : undefined }),
          ),
        ]
      : []),
    ...(mode === 'hold'
      ? []
      : [
          tick('Serials are given', operation.serial ?? false, (on) =>
            optional({ serial: on ? true : undefined }),
          ),
        ]),
    ...(gate && mode === 'gate'
      ? [
          tick('Two people look', gate.eyes === 2, (on) =>
            onChange({ ...operation, gate: { kind: 'inspection', ...(on ? { eyes: 2 as const } : {}) } }),
          ),
        ]
      : []),
  ];
  if (ticks.length === 0) return null;
  return (
    <FormGroup row className="needs" role="group" aria-label="Asked here">
      <FormLabel>Asked here</FormLabel>
      {ticks}
    </FormGroup>
  );
}

function ModeFields({
  operation,
  names,
  onChange,
}: {
  operation: Operation;
  names: FactoryNames;
  onChange: (operation: Operation) => void;
}) {
  if (operation.mode === 'hold')
    return <HoldFields operation={operation} rooms={names.rooms} onChange={onChange} />;
  const skill = (
    <TextField
      label="Skill"
      value={operation.skill ?? ''}
      onChange={(event) =>
        onChange({ ...operation, skill: event.target.value.trim() === '' ? null : event.target.value.trim() })
      }
      sx={{ width: 118 }}
    />
  );
  const setUp = (
    <NumberField
      label="Set-up"
      unit="min"
      value={operation.setUpMinutes}
      onChange={(value) => onChange({ ...operation, setUpMinutes: value ?? 0 })}
    />
  );
  if (operation.mode === 'load')
    return (
      <Row key={`${operation.key} load`}>
        {setUp}
        <NumberField
          label="Cycle"
          unit="min"
          value={operation.cycleMinutes}
          onChange={(value) => onChange({ ...operation, cycleMinutes: value ?? 0 })}
        />
        <NumberField
          label="Places"
          value={operation.places}
          onChange={(value) => onChange({ ...operation, places: value ?? 0 })}
        />
        {skill}
      </Row>
    );
  return (
    <>
      <Row key={`${operation.key} ${operation.mode}`}>
        {setUp}
        <NumberField
          label="A piece"
          unit="min"
          value={operation.pieceMinutes}
          onChange={(value) => onChange({ ...operation, pieceMinutes: value ?? 0 })}
        />
        {skill}
      </Row>
      {operation.mode === 'join' && <JoinFields operation={operation} names={names} onChange={onChange} />}
      {operation.mode === 'split' && (
        <TextField
          select
          label="Makes"
          value={operation.makesKinds}
          onChange={(event) => onChange({ ...operation, makesKinds: [event.target.value].flat() })}
          slotProps={{ select: { multiple: true } }}
        >
          {names.kinds.map(({ letter, name }) => (
            <MenuItem key={letter} value={letter}>
              {letter}: {name}
            </MenuItem>
          ))}
        </TextField>
      )}
      {operation.mode === 'gate' && (
        <TextField
          select
          label="Decides by"
          value={operation.gate.kind}
          onChange={(event) =>
            onChange({
              ...operation,
              gate:
                event.target.value === 'moisture'
                  ? { kind: 'moisture', window: { lowPct: 6, highPct: 8.5 } }
                  : { kind: 'inspection' },
            })
          }
        >
          <MenuItem value="inspection">an inspector</MenuItem>
          <MenuItem value="moisture">the moisture gate</MenuItem>
        </TextField>
      )}
      {operation.mode === 'attended' && (
        <Row key={`${operation.key} coats`}>
          <NumberField
            label="Coats"
            optional
            value={operation.coats?.wanted}
            onChange={(value) =>
              onChange({
                ...operation,
                coats:
                  value === null ? null : { wanted: value, material: operation.coats?.material ?? 'lacquer' },
              })
            }
          />
          {operation.coats && (
            <TextField
              label="Material"
              value={operation.coats.material}
              onChange={(event) =>
                onChange({
                  ...operation,
                  coats: { wanted: operation.coats?.wanted ?? 1, material: event.target.value },
                })
              }
              sx={{ width: 200 }}
            />
          )}
          <FormControlLabel
            control={
              <Checkbox
                size="small"
                checked={operation.ableOnly ?? false}
                onChange={(_, on) => {
                  const { ableOnly: _gone, ...rest } = operation;
                  onChange(on ? { ...rest, ableOnly: true } : rest);
                }}
              />
            }
            label="Only people able to do it"
          />
        </Row>
      )}
    </>
  );
}

function JoinFields({
  operation,
  names,
  onChange,
}: {
  operation: Extract<Operation, { mode: 'join' }>;
  names: FactoryNames;
  onChange: (operation: Operation) => void;
}) {
  const kind = (label: string, value: string, take: (letter: string) => void) => (
    <TextField
      select
      label={label}
      value={value}
      onChange={(event) => take(event.target.value)}
      sx={{ width: 130 }}
    >
      {names.kinds.map(({ letter, name }) => (
        <MenuItem key={letter} value={letter}>
          {letter}: {name}
        </MenuItem>
      ))}
    </TextField>
  );
  const { fit } = operation;
  return (
    <>
      <Row>
        <TextField
          select
          label="Role"
          value={operation.role}
          onChange={(event) => onChange({ ...operation, role: event.target.value as 'host' | 'guest' })}
          sx={{ width: 150 }}
        >
          <MenuItem value="host">takes in</MenuItem>
          <MenuItem value="guest">goes in</MenuItem>
        </TextField>
        {kind('The other', operation.partnerKind, (partnerKind) => onChange({ ...operation, partnerKind }))}
        {kind('Makes', operation.makesKind, (makesKind) => onChange({ ...operation, makesKind }))}
      </Row>
      <FormControlLabel
        control={
          <Checkbox
            size="small"
            checked={fit !== undefined}
            onChange={(_, on) => {
              const { fit: _gone, ...rest } = operation;
              onChange(
                on
                  ? {
                      ...rest,
                      fit: {
                        hostCheck: 'pocket-width',
                        guestCheck: 'heel-width',
                        windowMm: { low: 0.05, high: 0.15 },
                      },
                    }
                  : rest,
              );
            }}
          />
        }
        label="Paired by measurement"
      />
      {fit && (
        <Row>
          <TextField
            label="Check of the host"
            value={fit.hostCheck}
            onChange={(event) => onChange({ ...operation, fit: { ...fit, hostCheck: event.target.value } })}
            sx={{ width: 140 }}
          />
          <TextField
            label="Check of the guest"
            value={fit.guestCheck}
            onChange={(event) => onChange({ ...operation, fit: { ...fit, guestCheck: event.target.value } })}
            sx={{ width: 140 }}
          />
          <NumberField
            label="Gap from"
            unit="mm"
            value={fit.windowMm.low}
            onChange={(value) =>
              onChange({ ...operation, fit: { ...fit, windowMm: { ...fit.windowMm, low: value ?? 0 } } })
            }
          />
          <NumberField
            label="to"
            unit="mm"
            value={fit.windowMm.high}
            onChange={(value) =>
              onChange({ ...operation, fit: { ...fit, windowMm: { ...fit.windowMm, high: value ?? 0 } } })
            }
          />
        </Row>
      )}
    </>
  );
}

function Checks({ checks, onChange }: { checks: readonly Check[]; onChange: (checks: Check[]) => void }) {
  const set = (i: number, change: Partial<Check>): void =>
    onChange(checks.map((check, at) => (at === i ? { ...check, ...change } : check)));
  return (
    <FormGroup row className="needs" role="group" aria-label="Measured here">
      <FormLabel>Measured here</FormLabel>
      {checks.map((check, i) => (
        <Row key={i} style={{ marginBottom: 6 }}>
          <TextField
            label="Dimension"
            value={check.name}
            onChange={(event) => set(i, { name: event.target.value })}
            sx={{ width: 150 }}
          />
          <TextField
            label="Key"
            value={check.key}
            onChange={(event) => set(i, { key: event.target.value })}
            sx={{ width: 120 }}
          />
          <TextField
            label="Unit"
            value={check.unit}
            onChange={(event) => set(i, { unit: event.target.value })}
            sx={{ width: 64 }}
          />
          <NumberField
            label="Nominal"
            width={86}
            value={check.nominal}
            onChange={(value) => set(i, { nominal: value ?? 0 })}
          />
          <NumberField
            label="From"
            width={78}
            optional
            value={check.lower}
            onChange={(lower) => set(i, { lower })}
          />
          <NumberField
            label="To"
            width={78}
            optional
            value={check.upper}
            onChange={(upper) => set(i, { upper })}
          />
          <NumberField
            label="Pieces"
            width={70}
            value={check.sample}
            onChange={(value) => set(i, { sample: value ?? 1 })}
          />
          <FormControlLabel
            control={
              <Checkbox
                size="small"
                checked={check.firstPiece}
                onChange={(_, on) => set(i, { firstPiece: on })}
              />
            }
            label="first piece"
          />
          <Button onClick={() => onChange(checks.filter((_, at) => at !== i))}>Take out</Button>
        </Row>
      ))}
      <Button
        onClick={() =>
          onChange([
            ...checks,
            {
              key: `check-${checks.length + 1}`,
              name: 'New check',
              unit: 'mm',
              nominal: 10,
              lower: 9.9,
              upper: 10.1,
              firstPiece: false,
              sample: 1,
            },
          ])
        }
      >
        Add a check
      </Button>
    </FormGroup>
  );
}

function Caution({
  operation,
  onChange,
}: {
  operation: Operation;
  onChange: (caution: string | null) => void;
}) {
  return (
    <>
      <TextField
        label="Caution"
        value={operation.caution ?? ''}
        multiline
        maxRows={5}
        onChange={(event) => onChange(event.target.value.trim() === '' ? null : event.target.value)}
      />
      <Row>
        <Quiet>The usual ones:</Quiet>
        {Object.keys(CAUTIONS).map((name) => (
          <Button key={name} size="small" onClick={() => onChange(cautionWords(name))}>
            {name}
          </Button>
        ))}
      </Row>
    </>
  );
}
