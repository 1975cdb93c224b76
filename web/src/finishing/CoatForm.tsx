import { operationOf, type FinishSight } from '@ample-crane/core';
import { Button, MenuItem, TextField } from '@mui/material';
import { useState } from 'react';
import { typedNumber } from '../app/typed.ts';
import { Refused } from '../devices/Refused.tsx';
import { PieceChoice } from './PieceChoice.tsx';
import { useBooths, useMaterials, type RackPage } from './queries.ts';
import { useChosen } from './useChosen.ts';
import { useFile } from './useFile.ts';

/** One touch logs the coat; what else is known of it can be said. */
export function CoatForm({ page, sight }: { page: RackPage; sight: FinishSight }) {
  const { file, busy, refused } = useFile(page.rack.batch);
  const { data: booths } = useBooths();
  const { data: materials } = useMaterials();
  const [chosen, setChosen] = useChosen(sight.positions);
  const [who, setWho] = useState('');
  const [booth, setBooth] = useState('');
  const [lot, setLot] = useState('');
  const [wet, setWet] = useState('');
  const [because, setBecause] = useState('');
  const { coat } = sight;
  if (!coat) return null;
  const operation = operationOf(page.route, sight.operation);
  const skill = operation.mode === 'attended' ? operation.skill : null;
  const able = page.able.filter(({ skills }) => skill === null || skills.includes(skill));
  const isWaiting = sight.standing === 'waiting';
  const step = page.state.finish?.coats.find((one) => one.step === coat.step);
  const sources = (materials?.materials ?? [])
    .filter(({ material }) => material === step?.spec.material)
    .flatMap(({ lots }) =>
      lots.filter(({ leftLitres, openedMs }) => leftLitres > 0 && openedMs !== null).map((one) => one.code),
    );
  const mixes = (materials?.mixes ?? []).filter(({ material }) => material === step?.spec.material);
  const wetUms = wet
    .split(/[\s;]+/)
    .filter(Boolean)
    .map((text) => typedNumber(text));
  const wrong = wetUms.some((value) => value === null);
  const here = { operation: sight.operation, pieces: chosen };
  const said = {
    ...(who ? { who } : {}),
    ...(booth ? { booth } : {}),
    ...(lot ? { lot } : {}),
    ...(wetUms.length === 1 ? { wetUm: wetUms[0] ?? 0 } : {}),
    ...(wetUms.length > 1 ? { wetUms: wetUms.map((value) => value ?? 0) } : {}),
    ...(because.trim() ? { because: because.trim() } : {}),
  };
  const lay = async (): Promise<void> => {
    const filed = await file(
      ...(isWaiting ? [{ type: 'start' as const, ...here, ...(who ? { who } : {}) }] : []),
      { type: 'coat' as const, ...here, number: coat.number, ...said },
    );
    if (filed) {
      setWet('');
      setBecause('');
    }
  };
  return (
    <form
      aria-label={`Coat ${coat.number}`}
      style={{ marginTop: 10 }}
      onSubmit={(event) => {
        event.preventDefault();
        void lay();
      }}
    >
      <div className="row">
        <Button type="submit" variant="contained" disabled={busy || wrong || chosen.length === 0}>
          {isWaiting ? 'Start and log' : 'Log'} coat {coat.number} of {coat.of}
          {chosen.length < sight.positions.length ? ` on ${chosen.length}` : ''}
        </Button>
        <TextField
          select
          label="Who"
          value={who}
          onChange={(event) => setWho(event.target.value)}
          sx={{ width: 150 }}
          slotProps={{ inputLabel: { shrink: true }, select: { displayEmpty: true } }}
        >
          <MenuItem value="">whoever files</MenuItem>
          {able.map(({ code, name }) => (
            <MenuItem key={code} value={code}>
              {name}
            </MenuItem>
          ))}
        </TextField>
        <TextField
          label="Wet film, µm"
          placeholder={step ? String(step.spec.wetUm) : ''}
          helperText={
            wrong
              ? 'numbers, one or one a piece'
              : wetUms.length > 1
                ? `${wetUms.length} of ${chosen.length}`
                : undefined
          }
          error={wrong}
          value={wet}
          onChange={(event) => setWet(event.target.value)}
          sx={{ width: 130 }}
          slotProps={{ inputLabel: { shrink: true }, htmlInput: { inputMode: 'decimal' } }}
        />
      </div>
      <details style={{ marginTop: 6 }}>
        <summary>Part of the rack, booth, lot, or a reason</summary>
        <div style={{ margin: '6px 0' }}>
          <PieceChoice places={sight.positions} chosen={chosen} onChoose={setChosen} label="Pieces coated" />
        </div>
        <div className="row">
          <TextField
            select
            label="Booth"
            value={booth}
            onChange={(event) => setBooth(event.target.value)}
            sx={{ width: 130 }}
            slotProps={{ inputLabel: { shrink: true }, select: { displayEmpty: true } }}
          >
            <MenuItem value="">the usual</MenuItem>
            {booths?.booths.map(({ code, name }) => (
              <MenuItem key={code} value={code}>
                {name}
              </MenuItem>
            ))}
          </TextField>
          <TextField
            select
            label="Out of"
            value={lot}
            onChange={(event) => setLot(event.target.value)}
            sx={{ width: 150 }}
            slotProps={{ inputLabel: { shrink: true }, select: { displayEmpty: true } }}
          >
            <MenuItem value="">what is open</MenuItem>
            {[...mixes.map(({ code }) => code), ...sources].map((code) => (
              <MenuItem key={code} value={code}>
                {code}
              </MenuItem>
            ))}
          </TextField>
          <TextField
            label="Reason, where the rule says no"
            value={because}
            onChange={(event) => setBecause(event.target.value.slice(0, 200))}
            sx={{ width: 250 }}
          />
        </div>
      </details>
      <Refused words={refused} />
    </form>
  );
}
