import { operationOf, type FinishView } from '@ample-crane/core';
import { Box, Button, TextField } from '@mui/material';
import { useState } from 'react';
import { typedNumber } from '../shared/typed.ts';
import { unlessTypedSince } from '../shared/unless-typed-since.ts';
import { Refused } from '../devices/Refused.tsx';
import { Form } from '../fields/Form.tsx';
import { asOptions, Choice } from '../fields/Choice.tsx';
import { Words } from '../fields/Words.tsx';
import { Fold, Row } from '../parts/index.ts';
import { PieceChoice } from './PieceChoice.tsx';
import { useBooths, useMaterials, type RackPage } from './queries.ts';
import { useChosen } from './useChosen.ts';
import { useFile } from './useFile.ts';

/** One touch logs the coat; what else is known of it can be said. */
export function CoatForm({ page, view }: { page: RackPage; view: FinishView }) {
  const { file, busy, refused } = useFile(page.rack.batch);
  const { data: booths } = useBooths();
  const { data: materials } = useMaterials();
  const [chosen, setChosen] = useChosen(view.positions);
  const [who, setWho] = useState('');
  const [booth, setBooth] = useState('');
  const [lot, setLot] = useState('');
  const [wet, setWet] = useState('');
  const [because, setBecause] = useState('');
  const { coat } = view;
  if (!coat) return null;
  const operation = operationOf(page.route, view.operation);
  const skill = operation.mode === 'attended' ? operation.skill : null;
  const able = page.able.filter(({ skills }) => skill === null || skills.includes(skill));
  const isWaiting = view.standing === 'waiting';
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
  const here = { operation: view.operation, pieces: chosen };
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
      setWet(unlessTypedSince(wet));
      setBecause(unlessTypedSince(because));
    }
  };
  return (
    <Form label={`Coat ${coat.number}`} style={{ marginTop: 10 }} onFile={lay}>
      <Row>
        <Button type="submit" variant="contained" disabled={busy || wrong || chosen.length === 0}>
          {isWaiting ? 'Start and log' : 'Log'} coat {coat.number} of {coat.of}
          {chosen.length < view.positions.length ? ` on ${chosen.length}` : ''}
        </Button>
        <Choice
          label="Who"
          value={who}
          onChange={setWho}
          options={able.map(({ code, name }) => ({ value: code, words: name }))}
          none="whoever files"
          width={150}
        />
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
      </Row>
      <Fold name="Part of the rack, booth, lot, or a reason" style={{ marginTop: 6 }}>
        <Box style={{ margin: '6px 0' }}>
          <PieceChoice places={view.positions} chosen={chosen} onChoose={setChosen} label="Pieces coated" />
        </Box>
        <Row>
          <Choice
            label="Booth"
            value={booth}
            onChange={setBooth}
            options={(booths?.booths ?? []).map(({ code, name }) => ({ value: code, words: name }))}
            none="the usual"
            width={130}
          />
          <Choice
            label="Out of"
            value={lot}
            onChange={setLot}
            options={asOptions([...mixes.map(({ code }) => code), ...sources])}
            none="what is open"
            width={150}
          />
          <Words label="Reason, where the rule says no" value={because} onChange={setBecause} width={250} />
        </Row>
      </Fold>
      <Refused words={refused} />
    </Form>
  );
}
