import { FIGURE_GRADES, MAY_BE, WOOD_COLOURS, type LotState } from '@ample-crane/core';
import { Button, Typography } from '@mui/material';
import { useWatch } from 'react-hook-form';
import { maybe } from '../shared/typed.ts';
import { AskChoice, AskNumber, asOptions, AskWords, Form, useDraft } from '../fields/index.ts';
import { Panel } from '../parts/index.ts';
import { useWoodFiling } from './useWoodFiling.ts';

const NOTHING = { what: '', weightKg: '', grade: '', colour: '' };
const NOT_LOST = { what: '', reason: '' };

/** One board or blank at a time: what it weighs, how it is figured, or that it is lost. */
export function SortForm({ lot }: { lot: LotState }) {
  return (
    <Panel label="Sort">
      <Typography variant="h2">Weigh, sort or scrap one</Typography>
      <Sort lot={lot} />
      <Scrap lot={lot} />
    </Panel>
  );
}

/** A board that is still here by its number, a blank by its code or the end of it: '12.1'. */
function foundIn(lot: LotState, what: string) {
  const wanted = what.trim();
  const board = lot.boards.find(
    ({ number, status }) => String(number) === wanted && (status === 'stacked' || status === 'to-cut'),
  );
  const blank = lot.blanks.find(
    ({ id, status }) => status === 'stock' && (id === wanted || id.endsWith(`/${wanted}`)),
  );
  return board ? { board } : blank ? { blank } : null;
}

const goneWords = (lot: LotState) => (what: string) => (foundIn(lot, what) ? undefined : 'not here any more');

function hintOf(lot: LotState, what: string): string | undefined {
  const found = foundIn(lot, what);
  if (!found) return 'a board’s number, or a blank’s: 12.1';
  return found.board ? `board ${found.board.number}` : `blank ${found.blank.id}`;
}

function Sort({ lot }: { lot: LotState }) {
  const { fileLot, busy, refusal } = useWoodFiling();
  const draft = useDraft(`sort in ${lot.code}`, NOTHING);
  const what = useWatch({ control: draft.form.control, name: 'what' });
  const found = foundIn(lot, what);
  const isBlank = found?.blank !== undefined;
  const sort = async ({ what: asked, weightKg, grade, colour }: typeof NOTHING): Promise<unknown> => {
    const one = foundIn(lot, asked);
    const weight = maybe('weightKg', weightKg);
    if (one?.blank)
      return weight.weightKg === undefined
        ? false
        : fileLot(lot.code, { type: 'weigh', blank: one.blank.id, weightKg: weight.weightKg });
    const looks = {
      ...pick('grade', FIGURE_GRADES, grade),
      ...pick('colour', WOOD_COLOURS, colour),
      ...weight,
    };
    if (Object.keys(looks).length === 0) {
      draft.form.setError('weightKg', { message: 'what is new: weight, figure or colour' });
      return false;
    }
    return one?.board && fileLot(lot.code, { type: 'sort', sorted: [{ board: one.board.number, ...looks }] });
  };
  return (
    <Form draft={draft} refusal={refusal} lay="row" style={{ marginTop: 8 }} onFile={sort}>
      <AskWords
        name="what"
        label="Board or blank"
        needed="which one"
        wrong={goneWords(lot)}
        hint={hintOf(lot, what)}
        width={150}
      />
      <AskNumber
        name="weightKg"
        label="Weight"
        unit="kg"
        {...(isBlank ? MAY_BE.blankKg : MAY_BE.boardKg)}
        optional={!isBlank}
        width={110}
      />
      {!isBlank && (
        <>
          <AskChoice
            name="grade"
            label="Figure"
            options={asOptions(FIGURE_GRADES)}
            none="as it is"
            width={130}
          />
          <AskChoice
            name="colour"
            label="Colour"
            options={asOptions(WOOD_COLOURS)}
            none="as it is"
            width={110}
          />
        </>
      )}
      <Button type="submit" disabled={busy}>
        Note it
      </Button>
    </Form>
  );
}

function Scrap({ lot }: { lot: LotState }) {
  const { fileLot, busy, refusal } = useWoodFiling();
  const draft = useDraft(`scrap of ${lot.code}`, NOT_LOST);
  const what = useWatch({ control: draft.form.control, name: 'what' });
  const scrap = async ({ what: asked, reason }: typeof NOT_LOST): Promise<unknown> => {
    const one = foundIn(lot, asked);
    const lost = { boards: one?.board ? [one.board.number] : [], blanks: one?.blank ? [one.blank.id] : [] };
    return fileLot(lot.code, { type: 'lot-scrap', ...lost, reason: reason.trim() });
  };
  return (
    <Form draft={draft} refusal={refusal} lay="row" style={{ marginTop: 10 }} onFile={scrap}>
      <AskWords
        name="what"
        label="Lost board or blank"
        needed="which one"
        wrong={goneWords(lot)}
        hint={hintOf(lot, what)}
        width={150}
      />
      <AskWords name="reason" label="Reason it is lost" needed="it stays with the lot" width={220} />
      <Button type="submit" disabled={busy}>
        Scrap it
      </Button>
    </Form>
  );
}

/** One of the words a field offers, for a body that is sent; nothing where none is chosen. */
function pick<Name extends string, Word extends string>(
  name: Name,
  words: readonly Word[],
  chosen: string,
): Partial<Record<Name, Word>> {
  const word = words.find((one) => one === chosen);
  return word === undefined ? {} : ({ [name]: word } as Record<Name, Word>);
}
