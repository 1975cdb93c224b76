import {
  AGEING_LEVELS,
  dryFilmUm,
  HARDENINGS,
  type CoatStep,
  type Hardening,
  type RecipeStep,
} from '@ample-crane/core';
import { Box, Button, Stack, TextField } from '@mui/material';
import { asOptions, Choice, type Option } from '../fields/Choice.tsx';
import { NumberField } from '../fields/NumberField.tsx';
import { Words } from '../fields/Words.tsx';
import { Quiet, Row } from '../parts/index.ts';

/** As the format of recipes allows. */
const LONGEST_NAME = 120;

const HARDENS: Record<Hardening, string> = {
  solvent: 'by solvent leaving: one slab',
  reaction: 'by reacting: coat by coat',
  oxidation: 'by taking up oxygen',
};
const HARDENING_OPTIONS: Option[] = HARDENINGS.map((value) => ({ value, words: HARDENS[value] }));
const isHardening = (value: string): value is Hardening => HARDENINGS.some((one) => one === value);

const UNTIL_OPTIONS: Option[] = [
  { value: 'recoat', words: 'recoated' },
  { value: 'sand', words: 'sanded' },
  { value: 'buff', words: 'buffed' },
];

/** Everything of one step of a recipe. */
export function StepFields({ step, onChange }: { step: RecipeStep; onChange: (step: RecipeStep) => void }) {
  return (
    <Stack style={{ margin: '8px 0', gap: 8 }} key={step.key}>
      <Row>
        <Words
          label="Name"
          value={step.name}
          onChange={(name) => onChange({ ...step, name })}
          most={LONGEST_NAME}
          width={190}
        />
        <Words
          label="At operation"
          value={step.at}
          onChange={(at) => onChange({ ...step, at: at.toLowerCase() })}
          width={120}
        />
        <NumberField
          label="Touch"
          unit="min"
          value={step.touchMinutes}
          onChange={(value) => onChange({ ...step, touchMinutes: value ?? 0 })}
        />
        <NumberField
          label="Booth"
          unit="min"
          value={step.boothMinutes}
          onChange={(value) => onChange({ ...step, boothMinutes: value ?? 0 })}
        />
      </Row>
      {step.kind === 'coat' && <CoatFields step={step} onChange={onChange} />}
      {step.kind === 'sand' && (
        <Row>
          <TextField
            label="Grits"
            defaultValue={step.grits.join(' ')}
            onChange={(event) =>
              onChange({ ...step, grits: event.target.value.split(/\D+/).filter(Boolean).map(Number) })
            }
            sx={{ width: 160 }}
          />
          <NumberField
            label="Takes"
            unit="µm"
            value={step.removalUm}
            onChange={(value) => onChange({ ...step, removalUm: value ?? 0 })}
          />
          <NumberField
            label="Spread"
            unit="µm"
            value={step.removalSdUm}
            onChange={(value) => onChange({ ...step, removalSdUm: value ?? 0 })}
          />
          <NumberField
            label="Leaves at least"
            unit="µm"
            optional
            value={step.leavesUm}
            onChange={(value) => {
              const { leavesUm: _before, ...rest } = step;
              onChange(value === null ? rest : { ...rest, leavesUm: value });
            }}
          />
        </Row>
      )}
      {step.kind === 'treat' && (
        <NumberField
          label="Dries"
          unit="h"
          value={step.waitHours}
          onChange={(value) => onChange({ ...step, waitHours: value ?? 0 })}
        />
      )}
      {step.kind === 'cure' && (
        <Choice
          label="Until it may be"
          value={step.until}
          onChange={(until) => onChange({ ...step, until: until as typeof step.until })}
          options={UNTIL_OPTIONS}
          width={140}
        />
      )}
      {step.kind === 'age' && (
        <Row>
          <NumberField
            label="Cold"
            unit="h"
            value={step.coldHours}
            onChange={(value) => onChange({ ...step, coldHours: value ?? 0 })}
          />
          <NumberField
            label="Warm"
            unit="h"
            value={step.warmHours}
            onChange={(value) => onChange({ ...step, warmHours: value ?? 0 })}
          />
          <NumberField
            label="Turns at most"
            value={step.cycles}
            onChange={(value) => onChange({ ...step, cycles: value ?? 0 })}
          />
          <Choice
            label="Level"
            value={step.level}
            onChange={(level) => onChange({ ...step, level: level as typeof step.level })}
            options={asOptions(AGEING_LEVELS)}
            width={140}
          />
        </Row>
      )}
      <Defects step={step} onChange={onChange} />
    </Stack>
  );
}

function CoatFields({ step, onChange }: { step: CoatStep; onChange: (step: RecipeStep) => void }) {
  const { spec } = step;
  const set = (change: Partial<CoatStep['spec']>): void =>
    onChange({ ...step, spec: { ...spec, ...change } });
  const hours = (change: Partial<CoatStep['spec']['hours']>): void =>
    set({ hours: { ...spec.hours, ...change } });
  return (
    <>
      <Row>
        <Words
          label="Material"
          value={spec.material}
          onChange={(material) => set({ material })}
          most={LONGEST_NAME}
          width={160}
        />
        <NumberField
          label="Coats"
          value={step.coats}
          onChange={(value) => onChange({ ...step, coats: value ?? 0 })}
        />
        <NumberField
          label="Wet film"
          unit="µm"
          value={spec.wetUm}
          onChange={(value) => set({ wetUm: value ?? 0 })}
        />
        <NumberField
          label="Spread"
          unit="µm"
          value={spec.wetSdUm}
          onChange={(value) => set({ wetSdUm: value ?? 0 })}
        />
        <NumberField
          label="Solids, % by volume"
          value={spec.solidsPct}
          onChange={(value) => set({ solidsPct: value ?? 0 })}
        />
        <NumberField
          label="Lands"
          unit="%"
          value={step.transferPct}
          onChange={(value) => onChange({ ...step, transferPct: value ?? 0 })}
        />
      </Row>
      <Row>
        <NumberField
          label="Recoat, h at 21 °C"
          value={spec.hours.recoat}
          onChange={(value) => hours({ recoat: value ?? 0 })}
        />
        <NumberField
          label="Window closes"
          unit="h"
          optional
          value={spec.maxRecoatHours ?? undefined}
          onChange={(value) => set({ maxRecoatHours: value })}
        />
        <NumberField
          label="Sand"
          unit="h"
          value={spec.hours.sand}
          onChange={(value) => hours({ sand: value ?? 0 })}
        />
        <NumberField
          label="Buff"
          unit="h"
          value={spec.hours.buff}
          onChange={(value) => hours({ buff: value ?? 0 })}
        />
        <NumberField
          label="for a film"
          unit="µm"
          value={spec.referenceUm}
          onChange={(value) => set({ referenceUm: value ?? 0 })}
        />
        <Choice
          label="Hardens"
          value={spec.by ?? 'solvent'}
          options={HARDENING_OPTIONS}
          onChange={(by) => {
            if (isHardening(by)) set({ by });
          }}
          width={220}
        />
        <NumberField label="Faster by 10 °C" value={spec.q} onChange={(value) => set({ q: value ?? 0 })} />
      </Row>
      <Row>
        <TextField
          label="Mixed, parts"
          placeholder="satin base 10, hardener 1"
          defaultValue={step.mix?.parts.map(({ name, parts }) => `${name} ${parts}`).join(', ') ?? ''}
          onChange={(event) =>
            onChange({ ...step, mix: mixOf(event.target.value, step.mix?.potLifeHours ?? 4) })
          }
          sx={{ width: 250 }}
          slotProps={{ inputLabel: { shrink: true } }}
        />
        {step.mix && (
          <NumberField
            label="Pot life"
            unit="h"
            value={step.mix.potLifeHours}
            onChange={(value) =>
              step.mix && onChange({ ...step, mix: { ...step.mix, potLifeHours: value ?? 0 } })
            }
          />
        )}
        <Quiet>{filmWords(step)}</Quiet>
      </Row>
    </>
  );
}

function filmWords({ spec, coats }: CoatStep): string {
  try {
    const film = dryFilmUm(spec);
    return `${film.toFixed(1)} µm dry a coat, ${(film * coats).toFixed(0)} in all`;
  } catch {
    return '';
  }
}

/** 'satin base 10, hardener 1' → its parts; null when nothing is mixed. */
function mixOf(text: string, potLifeHours: number): CoatStep['mix'] {
  if (text.trim() === '') return null;
  const parts = text.split(/[,;]/).flatMap((part) => {
    const found = /^(.*?)\s*(\d+(?:\.\d+)?)$/.exec(part.trim());
    return found ? [{ name: found[1]?.trim() || 'part', parts: Number(found[2]) }] : [];
  });
  return { parts, potLifeHours };
}

function Defects({ step, onChange }: { step: RecipeStep; onChange: (step: RecipeStep) => void }) {
  const change = (index: number, said: Partial<RecipeStep['defects'][number]>): void =>
    onChange({
      ...step,
      defects: step.defects.map((other, j) => (j === index ? { ...other, ...said } : other)),
    });
  return (
    <Box>
      <Quiet>To look for here, and where each goes back to</Quiet>
      {step.defects.map((one, i) => (
        <Row key={i} style={{ marginTop: 4 }}>
          <Words
            label="Defect"
            value={one.defect}
            onChange={(defect) => change(i, { defect })}
            most={LONGEST_NAME}
            width={150}
          />
          <Words
            label="Back to"
            value={one.backTo}
            onChange={(backTo) => change(i, { backTo: backTo.toLowerCase() })}
            width={120}
          />
          <Button
            size="small"
            onClick={() => onChange({ ...step, defects: step.defects.filter((_, j) => j !== i) })}
          >
            Take out
          </Button>
        </Row>
      ))}
      <Box style={{ marginTop: 4 }}>
        <Button
          size="small"
          onClick={() =>
            onChange({ ...step, defects: [...step.defects, { defect: 'run', backTo: step.at }] })
          }
        >
          Add a defect
        </Button>
      </Box>
    </Box>
  );
}
