import {
  count,
  cutListOf,
  type BlankSize,
  type BlanksPlan,
  type ListedBoard,
  type LotState,
} from '@ample-crane/core';
import {
  Button,
  Checkbox,
  FormControlLabel,
  Table,
  TableBody,
  TableCell,
  TableHead,
  TableRow,
  TextField,
  Typography,
} from '@mui/material';
import { useState, type KeyboardEvent } from 'react';
import { answered, server } from '../api/client.ts';
import { filedWords } from '../shared/usePerform.ts';
import { typedNumber } from '../shared/typed.ts';
import { PlainForm } from '../fields/Form.tsx';
import { Ordered, OrderedItem } from '../fields/Ordered.tsx';
import { Refused } from '../parts/index.ts';
import { useWoodFiling } from './useWoodFiling.ts';

/** A cutting plan of a lot, board by board, with what each blank weighs: filed in one go when it is sawn. */
export function CutList(props: {
  lot: LotState;
  plan: BlanksPlan;
  sizes: readonly (BlankSize & { kind: string })[];
  boards: LotState['boards'];
}) {
  const { lot, plan, sizes, boards } = props;
  const { perform, busy, refused } = useWoodFiling();
  const list = cutListOf({ plan, boards, sizes, thicknessMm: lot.thicknessMm });
  // As they go to the saw: as the plan has them until somebody says otherwise.
  const [order, setOrder] = useState<readonly number[]>([]);
  const ready = list
    .filter(({ board }) => boards.some(({ number, status }) => number === board && status === 'to-cut'))
    .toSorted((a, b) => order.indexOf(a.board) - order.indexOf(b.board));
  const [typed, setTyped] = useState<Record<number, string>>({});
  const [apart, setApart] = useState<readonly number[]>([]);
  const kindOf = (name: string): string => sizes.find((size) => size.name === name)?.kind ?? 'B';
  const isPair = ({ board, blanks }: ListedBoard): boolean =>
    blanks.length === 2 && blanks[0]?.name === blanks[1]?.name && !apart.includes(board);
  const weightsOf = ({ board, blanks }: ListedBoard): (number | null)[] =>
    (typed[board] ?? usualText(blanks))
      .split(/[\s;]+/)
      .filter(Boolean)
      .map(typedNumber);
  const wrong = ready.filter((one) => {
    const weights = weightsOf(one);
    return weights.length !== one.blanks.length || weights.some((kg) => kg === null || kg <= 0);
  });
  const waiting = list.length - ready.length;
  const file = (): Promise<unknown> =>
    perform(
      (by, key) =>
        answered(
          server.POST('/api/lots/{code}/cut-list', {
            params: { path: { code: lot.code } },
            body: {
              ...{ key, by },
              cuts: ready.map((one) => {
                const weights = weightsOf(one);
                return {
                  board: one.board,
                  matched: isPair(one),
                  pieces: one.blanks.map(({ name, lengthMm, widthMm, thicknessMm }, i) => ({
                    ...{ kind: kindOf(name), lengthMm, widthMm, thicknessMm, weightKg: weights[i] ?? 0 },
                  })),
                };
              }),
            },
          }),
        ),
      filedWords,
    );
  const blanks = ready.reduce((sum, one) => sum + one.blanks.length, 0);
  return (
    <PlainForm label="Cut list" style={{ marginTop: 10 }} onFile={() => wrong.length === 0 && void file()}>
      <Typography variant="h3">Cut list of {lot.code}</Typography>
      {waiting > 0 && (
        <Typography color="textSecondary">
          {count(waiting, 'board')} of the plan {waiting === 1 ? 'is' : 'are'} not to be cut yet: send{' '}
          {waiting === 1 ? 'it' : 'them'} to cut on the lot’s page.
        </Typography>
      )}
      {ready.length > 0 && (
        <Ordered
          keys={ready.map(({ board }) => String(board))}
          nameOf={(board) => `board ${board}`}
          onOrder={(boards) => setOrder(boards.map(Number))}
        >
          <Table size="small">
            <TableHead>
              <TableRow>
                <TableCell>to the saw</TableCell>
                <TableCell>board</TableCell>
                <TableCell>gives</TableCell>
                <TableCell>weight of each, kg</TableCell>
                <TableCell>pair</TableCell>
              </TableRow>
            </TableHead>
            <TableBody>
              {ready.map((one) => (
                <OrderedItem key={one.board} id={String(one.board)}>
                  {({ ref, style, controls }) => (
                    <TableRow ref={ref} style={style}>
                      <TableCell>{controls}</TableCell>
                      <TableCell>{one.board}</TableCell>
                      <TableCell>{givesWords(one)}</TableCell>
                      <TableCell>
                        <TextField
                          value={typed[one.board] ?? usualText(one.blanks)}
                          onChange={(event) => setTyped({ ...typed, [one.board]: event.target.value })}
                          onKeyDown={toNext}
                          error={wrong.includes(one)}
                          helperText={
                            wrong.includes(one) ? `${count(one.blanks.length, 'weight')} above 0` : undefined
                          }
                          slotProps={{
                            htmlInput: {
                              'aria-label': `Weights of board ${one.board}`,
                              inputMode: 'decimal',
                            },
                          }}
                        />
                      </TableCell>
                      <TableCell>
                        {one.blanks.length === 2 && (
                          <FormControlLabel
                            control={
                              <Checkbox
                                checked={isPair(one)}
                                onChange={(event) =>
                                  setApart(
                                    event.target.checked
                                      ? apart.filter((board) => board !== one.board)
                                      : [...apart, one.board],
                                  )
                                }
                              />
                            }
                            label="matched"
                          />
                        )}
                      </TableCell>
                    </TableRow>
                  )}
                </OrderedItem>
              ))}
            </TableBody>
          </Table>
        </Ordered>
      )}
      {ready.length > 0 && (
        <Button variant="contained" type="submit" disabled={busy || wrong.length > 0} sx={{ mt: 1 }}>
          File the cuts of {count(ready.length, 'board')}: {count(blanks, 'blank')}
        </Button>
      )}
      <Refused words={refused} />
    </PlainForm>
  );
}

/** Enter goes to the weights of the next board; the list is filed by its button, or Ctrl with Enter. */
function toNext(event: KeyboardEvent<HTMLElement>): void {
  if (event.key !== 'Enter' || event.ctrlKey || event.metaKey) return;
  event.preventDefault();
  const row = event.currentTarget.closest('tr');
  row?.nextElementSibling?.querySelector('input')?.focus();
}

const usualText = (blanks: ListedBoard['blanks']): string =>
  blanks.flatMap(({ weightKg }) => (weightKg === null ? [] : weightKg.toFixed(2))).join(' ');

/** '4 body half, 1 neck'. */
function givesWords({ blanks }: ListedBoard): string {
  const names = [...new Set(blanks.map(({ name }) => name))];
  return names.map((name) => `${blanks.filter((blank) => blank.name === name).length} ${name}`).join(', ');
}
