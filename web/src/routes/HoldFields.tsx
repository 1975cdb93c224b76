import { AGEING_LEVELS, type HoldOperation, type HoldRule, type Operation } from '@ample-crane/core';
import { Checkbox, FormControlLabel, MenuItem, TextField } from '@mui/material';
import { NumberField } from '../fields/NumberField.tsx';
import { Row } from '../parts/index.ts';

const RULES: { rule: HoldRule['rule']; words: string }[] = [
  { rule: 'elapsed', words: 'so many hours' },
  { rule: 'moisture', words: 'the moisture gate' },
  { rule: 'cure', words: 'a cure clock' },
  { rule: 'settle', words: 'settling under strings' },
  { rule: 'ageing', words: 'cold and warm by turns' },
];

/** A rule with plain defaults, when another is chosen. */
function fresh(rule: HoldRule['rule']): HoldRule {
  switch (rule) {
    case 'elapsed':
      return { rule, word: 'rest', hours: 24 };
    case 'moisture':
      return { rule, word: 'drying', window: { lowPct: 6, highPct: 8.5 }, tauDays: 7 };
    case 'cure':
      return { rule, word: 'cure', material: 'thin lacquer', until: 'sand', referenceHours: 72, q: 1.6 };
    case 'settle':
      return { rule, word: 'settling', hours: 144, driftLimitMm: 0.1 };
    case 'ageing':
      return { rule, word: 'ageing', coldHours: 18, warmHours: 6, cycles: 5, level: 'light' };
  }
}

/** What a hold rests by, and where. */
export function HoldFields({
  operation,
  rooms,
  onChange,
}: {
  operation: HoldOperation;
  rooms: readonly string[];
  onChange: (operation: Operation) => void;
}) {
  const { rule } = operation;
  const set = (next: HoldRule): void => onChange({ ...operation, rule: next });
  return (
    <>
      <Row>
        <TextField
          select
          label="Over by"
          value={rule.rule}
          onChange={(event) => set(fresh(event.target.value as HoldRule['rule']))}
          sx={{ width: 190 }}
        >
          {RULES.map((one) => (
            <MenuItem key={one.rule} value={one.rule}>
              {one.words}
            </MenuItem>
          ))}
        </TextField>
        <TextField
          select
          label="Room"
          value={operation.room}
          onChange={(event) => onChange({ ...operation, room: event.target.value })}
          sx={{ minWidth: 140, flex: 1 }}
        >
          {rooms.map((room) => (
            <MenuItem key={room} value={room}>
              {room}
            </MenuItem>
          ))}
        </TextField>
      </Row>
      <Row key={`${operation.key} ${rule.rule}`}>
        {rule.rule === 'elapsed' && (
          <>
            <TextField
              select
              label="Word"
              value={rule.word}
              onChange={(event) => set({ ...rule, word: event.target.value as 'rest' | 'glue' | 'flash' })}
              sx={{ width: 110 }}
            >
              {['rest', 'glue', 'flash'].map((word) => (
                <MenuItem key={word} value={word}>
                  {word}
                </MenuItem>
              ))}
            </TextField>
            <NumberField
              label="Hours"
              value={rule.hours}
              onChange={(value) => set({ ...rule, hours: value ?? 0 })}
            />
          </>
        )}
        {rule.rule === 'settle' && (
          <>
            <NumberField
              label="Hours"
              value={rule.hours}
              onChange={(value) => set({ ...rule, hours: value ?? 0 })}
            />
            {rule.drifts ? (
              // Each check that is read again has its own.
              Object.entries(rule.drifts).map(([key, drift]) => (
                <NumberField
                  key={key}
                  label={`Drift of ${key.replaceAll('-', ' ')}`}
                  value={drift}
                  onChange={(value) => set({ ...rule, drifts: { ...rule.drifts, [key]: value ?? 0 } })}
                />
              ))
            ) : (
              <NumberField
                label="Drift"
                unit="mm"
                value={rule.driftLimitMm}
                onChange={(value) => set({ ...rule, driftLimitMm: value ?? 0 })}
              />
            )}
          </>
        )}
        {rule.rule === 'ageing' && (
          <>
            <NumberField
              label="Cold"
              unit="h"
              value={rule.coldHours}
              onChange={(value) => set({ ...rule, coldHours: value ?? 0 })}
            />
            <NumberField
              label="Warm"
              unit="h"
              value={rule.warmHours}
              onChange={(value) => set({ ...rule, warmHours: value ?? 0 })}
            />
            <NumberField
              label="Cycles at most"
              value={rule.cycles}
              onChange={(value) => set({ ...rule, cycles: value ?? 1 })}
            />
            <TextField
              select
              label="Level"
              value={rule.level}
              onChange={(event) => set({ ...rule, level: event.target.value as typeof rule.level })}
              sx={{ width: 130 }}
            >
              {AGEING_LEVELS.map((level) => (
                <MenuItem key={level} value={level}>
                  {level}
                </MenuItem>
              ))}
            </TextField>
          </>
        )}
        {rule.rule === 'moisture' && (
          <>
            <NumberField
              label="From"
              unit="%"
              value={rule.window.lowPct}
              onChange={(value) => set({ ...rule, window: { ...rule.window, lowPct: value ?? 0 } })}
            />
            <NumberField
              label="To"
              unit="%"
              value={rule.window.highPct}
              onChange={(value) => set({ ...rule, window: { ...rule.window, highPct: value ?? 0 } })}
            />
          </>
        )}
        {rule.rule === 'cure' && (
          <>
            <TextField
              label="Material"
              value={rule.material}
              onChange={(event) => set({ ...rule, material: event.target.value })}
              sx={{ width: 150 }}
            />
            <TextField
              select
              label="Until"
              value={rule.until}
              onChange={(event) => set({ ...rule, until: event.target.value as typeof rule.until })}
              sx={{ width: 100 }}
            >
              {['recoat', 'sand', 'buff'].map((until) => (
                <MenuItem key={until} value={until}>
                  {until}
                </MenuItem>
              ))}
            </TextField>
            <NumberField
              label="Faster by 10 °C"
              value={rule.q}
              onChange={(value) => set({ ...rule, q: value ?? 1 })}
            />
            <NumberField
              label="Hours at 21 °C"
              value={rule.referenceHours}
              onChange={(value) => set({ ...rule, referenceHours: value ?? 0 })}
            />
          </>
        )}
      </Row>
      <FormControlLabel
        control={
          <Checkbox
            size="small"
            checked={operation.bedded ?? false}
            onChange={(_, on) => {
              const { bedded: _gone, ...rest } = operation;
              onChange(on ? { ...rest, bedded: true } : rest);
            }}
          />
        }
        label="Lies in a press, carousel or mould"
      />
    </>
  );
}
