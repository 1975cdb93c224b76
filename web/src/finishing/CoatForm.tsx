import { operationOf, THICKEST_WET_UM, type FinishView } from '@ample-crane/core';
import { Box, Button } from '@mui/material';
import { useWatch } from 'react-hook-form';
import { maybeWords, typedNumbers } from '../shared/typed.ts';
import { AskChoice, AskFrom, AskNumber, asOptions, AskWords, Form, useDraft } from '../fields/index.ts';
import { Fold, Row } from '../parts/index.ts';
import { PieceChoice } from './PieceChoice.tsx';
import { useBooths, useMaterials, type RackPage } from './queries.ts';
import { useChosen } from './useChosen.ts';
import { useFile } from './useFile.ts';

const EMPTY = { who: '', booth: '', lot: '', wetUm: '', because: '' };

/** One touch logs the coat; what else is known of it can be said. */
export function CoatForm({ page, view }: { page: RackPage; view: FinishView }) {
  const { file, busy, refusal } = useFile(page.rack.batch);
  const { data: booths } = useBooths();
  const { data: materials } = useMaterials();
  const [chosen, setChosen] = useChosen(view.positions);
  const draft = useDraft(`coat on ${page.rack.batch} ${view.operation}`, EMPTY, {
    keep: ['who', 'booth', 'lot'],
  });
  const wet = typedNumbers(useWatch({ control: draft.form.control, name: 'wetUm' })) ?? [];
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
  const here = { operation: view.operation, pieces: chosen };
  const lay = ({ who, booth, lot, wetUm, because }: typeof EMPTY): Promise<boolean> => {
    const by = maybeWords('who', who);
    const [first, ...others] = typedNumbers(wetUm) ?? [];
    const said = {
      ...by,
      ...maybeWords('booth', booth),
      ...maybeWords('lot', lot),
      ...(first === undefined ? {} : others.length === 0 ? { wetUm: first } : { wetUms: [first, ...others] }),
      ...maybeWords('because', because),
    };
    return file(...(isWaiting ? [{ type: 'start' as const, ...here, ...by }] : []), {
      type: 'coat' as const,
      ...here,
      number: coat.number,
      ...said,
    });
  };
  return (
    <Form
      label={`Coat ${coat.number}`}
      draft={draft}
      refusal={refusal}
      style={{ marginTop: 10 }}
      onFile={lay}
    >
      <Row>
        <Button type="submit" variant="contained" disabled={busy || chosen.length === 0}>
          {isWaiting ? 'Start and log' : 'Log'} coat {coat.number} of {coat.of}
          {chosen.length < view.positions.length ? ` on ${chosen.length}` : ''}
        </Button>
        <AskFrom
          name="who"
          label="Who"
          options={able.map(({ code, name }) => ({ value: code, words: name }))}
          placeholder="whoever files"
          width={190}
        />
        <AskNumber
          name="wetUm"
          label="Wet film"
          unit="µm"
          above={0}
          most={THICKEST_WET_UM}
          several
          mostValues={chosen.length}
          optional
          placeholder={step ? String(step.spec.wetUm) : ''}
          hint={wet.length > 1 ? `${wet.length} of ${chosen.length}` : undefined}
          width={150}
        />
      </Row>
      <Fold name="Part of the rack, booth, lot, or a reason" style={{ marginTop: 6 }}>
        <Box style={{ margin: '6px 0' }}>
          <PieceChoice places={view.positions} chosen={chosen} onChoose={setChosen} label="Pieces coated" />
        </Box>
        <Row>
          <AskChoice
            name="booth"
            label="Booth"
            options={(booths?.booths ?? []).map(({ code, name }) => ({ value: code, words: name }))}
            none="the usual"
            width={130}
          />
          <AskChoice
            name="lot"
            label="Out of"
            options={asOptions([...mixes.map(({ code }) => code), ...sources])}
            none="what is open"
            width={150}
          />
          <AskWords name="because" label="Reason, where the rule says no" width={250} />
        </Row>
      </Fold>
    </Form>
  );
}
