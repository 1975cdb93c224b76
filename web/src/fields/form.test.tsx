import { METRIC, type ChosenUnits } from '@ample-crane/core';
import { cleanup, render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { ServerProblem } from '../api/client.ts';
import { UnitsContext } from '../shared/units.ts';
import {
  AskChoice,
  AskFrom,
  AskNumber,
  asOptions,
  AskText,
  AskTick,
  AskWords,
  Form,
  useDraft,
} from './index.ts';

const EMPTY = {
  widthMm: '',
  wetUm: '',
  airC: '',
  count: '',
  reason: '',
  booth: '',
  rack: '',
  lines: '',
  sealed: false,
};
type Asked = typeof EMPTY;

interface Sheet {
  /** What comes of filing: whether it is filed, or the problem that is told. */
  file?: (values: Asked) => unknown;
  units?: ChosenUnits;
  racks?: string[];
}

function Whole({ file = () => true, racks = ['B-20', 'B-200', 'N-7'] }: Sheet) {
  const draft = useDraft('whole', EMPTY, { keep: ['booth'] });
  const [refusal, setRefusal] = useState<ServerProblem | null>(null);
  const send = async (values: Asked): Promise<unknown> => {
    const done = await file(values);
    setRefusal(done instanceof ServerProblem ? done : null);
    return !(done instanceof ServerProblem) && done;
  };
  return (
    <Form draft={draft} refusal={refusal} onFile={send} label="Whole">
      <AskNumber name="widthMm" label="Width" unit="mm" above={0} most={254} optional />
      <AskNumber name="wetUm" label="Film" unit="µm" least={0} most={1000} several mostValues={3} optional />
      <AskNumber name="airC" label="Air" unit="°C" least={-40} most={80} optional />
      <AskNumber name="count" label="Pieces" least={1} most={36} whole />
      <AskWords name="reason" label="Reason" needed="say why" />
      <AskChoice name="booth" label="Booth" options={asOptions(['booth-1', 'booth-2'])} none="the usual" />
      <AskFrom name="rack" label="Rack" options={asOptions(racks)} needed="which one" />
      <AskText name="lines" label="Lines" placeholder="1 2" />
      <AskTick name="sealed" label="Sealed" />
      <button type="submit">File</button>
      <button type="button" onClick={draft.leave}>
        Leave
      </button>
    </Form>
  );
}

function open({ units = METRIC, ...sheet }: Sheet = {}) {
  const filed: Asked[] = [];
  const file = (values: Asked): unknown => {
    filed.push(values);
    return sheet.file ? sheet.file(values) : true;
  };
  const page = (chosen: ChosenUnits) => (
    <UnitsContext value={chosen}>
      <Whole {...sheet} file={file} />
    </UnitsContext>
  );
  const { rerender } = render(page(units));
  return { filed, choose: (chosen: ChosenUnits) => rerender(page(chosen)) };
}
/** The window is loaded again: nothing is left but what it keeps. */
function reload(sheet: Sheet = {}) {
  cleanup();
  return open(sheet);
}
const type = (label: string, text: string) => userEvent.type(screen.getByLabelText(label), text);
const fill = async (): Promise<void> => {
  await type('Pieces', '12');
  await type('Reason', 'the fair');
  await type('Rack', 'B-20{Enter}');
};
const press = (name: string) => userEvent.click(screen.getByRole('button', { name }));

describe('a form', () => {
  it('says at each field what is wrong and why, goes to the first, and files nothing', async () => {
    const { filed } = open();
    await type('Width, mm', '300');
    await type('Film, µm', '95 1200');
    await type('Air, °C', '12x');
    await press('File');
    expect(await screen.findByText('above 0 to 254 mm')).toBeInTheDocument();
    expect(screen.getByText('1200 µm: 0 to 1000 µm')).toBeInTheDocument();
    expect(screen.getByText("'12x' is no number")).toBeInTheDocument();
    expect(screen.getByText('a number')).toBeInTheDocument();
    expect(screen.getByText('say why')).toBeInTheDocument();
    expect(screen.getByText('which one')).toBeInTheDocument();
    expect(screen.getByLabelText('Width, mm')).toHaveFocus();
    expect(filed).toEqual([]);
  });

  it('takes both decimal signs, is filed by Ctrl and Enter from anywhere, and is empty for the next but for what stays', async () => {
    const { filed } = open();
    await fill();
    await type('Width, mm', '56,2');
    await type('Film, µm', '95 97.5');
    await userEvent.click(screen.getByRole('combobox', { name: 'Booth' }));
    await userEvent.click(screen.getByRole('option', { name: 'booth-2' }));
    await userEvent.click(screen.getByLabelText('Sealed'));
    await type('Lines', 'one{Enter}two');
    expect(filed).toEqual([]);
    await userEvent.keyboard('{Control>}{Enter}{/Control}');
    await waitFor(() =>
      expect(filed).toEqual([
        {
          ...{
            widthMm: '56,2',
            wetUm: '95 97.5',
            airC: '',
            count: '12',
            reason: 'the fair',
            booth: 'booth-2',
          },
          ...{ rack: 'B-20', lines: 'one\ntwo', sealed: true },
        },
      ]),
    );
    await waitFor(() => expect(screen.getByLabelText('Reason')).toHaveValue(''));
    expect(screen.getByRole('combobox', { name: 'Booth' })).toHaveTextContent('booth-2');
    expect(screen.getByLabelText('Sealed')).not.toBeChecked();
    expect(screen.getByLabelText('Rack')).toHaveValue('');
  });

  it('is left by Escape, so that the keys of the house are heard again', async () => {
    open();
    await type('Reason', 'x{Escape}');
    expect(screen.getByLabelText('Reason')).not.toHaveFocus();
    expect(screen.getByLabelText('Reason')).toHaveValue('x');
  });
});

describe('what is typed', () => {
  it('survives a reload, until it is filed or left', async () => {
    open();
    await fill();
    await type('Width, mm', 'abc');
    reload();
    expect(screen.getByLabelText('Width, mm')).toHaveValue('abc');
    expect(screen.getByLabelText('Rack')).toHaveValue('B-20');
    await press('Leave');
    expect(screen.getByLabelText('Reason')).toHaveValue('');
    reload();
    expect(screen.getByLabelText('Reason')).toHaveValue('');
  });

  it('is not offered again by a reload while its filing is under way: it is kept elsewhere', async () => {
    open({ file: () => new Promise(() => undefined) });
    await fill();
    await press('File');
    await waitFor(() => expect(sessionStorage).toHaveLength(0));
    reload();
    expect(screen.getByLabelText('Reason')).toHaveValue('');
  });

  it('stays when it is refused, and outlives a reload then, too', async () => {
    open({
      file: () => new ServerProblem('the rack is on hold', false, { refused: 'the rack is on hold' }, 409),
    });
    await fill();
    await press('File');
    expect(await screen.findByRole('alert')).toHaveTextContent('the rack is on hold');
    reload();
    expect(screen.getByLabelText('Reason')).toHaveValue('the fair');
  });

  it('stays when it was typed while the answer was under way', async () => {
    let arrive = (_: boolean): void => undefined;
    open({ file: () => new Promise<boolean>((resolve) => (arrive = resolve)) });
    await fill();
    await press('File');
    await userEvent.clear(screen.getByLabelText('Reason'));
    await type('Reason', 'the next');
    arrive(true);
    await waitFor(() => expect(screen.getByLabelText('Pieces')).toHaveValue(''));
    expect(screen.getByLabelText('Reason')).toHaveValue('the next');
  });

  it('is not believed where what was kept is none of it', () => {
    const kept = { reason: 7, booth: null, sealed: 'yes', widthMm: ['1'], count: '3', stranger: 'x' };
    sessionStorage.setItem('ample-crane.draft.whole', JSON.stringify(kept));
    open();
    expect(screen.getByLabelText('Pieces')).toHaveValue('3');
    expect(screen.getByLabelText('Reason')).toHaveValue('');
    expect(screen.getByLabelText('Sealed')).not.toBeChecked();
    for (const nonsense of ['{', 'null', '"x"', '[1]']) {
      sessionStorage.setItem('ample-crane.draft.whole', nonsense);
      reload();
      expect(screen.getByLabelText('Pieces')).toHaveValue('');
    }
  });
});

describe('what a server refuses', () => {
  it('is said at the field it speaks of, and goes as that is typed in', async () => {
    const body = { refused: 'a film of 900 µm cannot be', code: 'bad-value', at: 'wetUm' };
    open({ file: () => new ServerProblem(body.refused, false, body, 409) });
    await fill();
    await type('Film, µm', '900');
    await press('File');
    expect(await screen.findByText(body.refused)).toBeInTheDocument();
    expect(screen.getByLabelText('Film, µm')).toBeInvalid();
    expect(screen.getByLabelText('Film, µm')).toHaveFocus();
    expect(screen.getByRole('alert')).toHaveTextContent('See the field above; nothing was filed.');
    await type('Film, µm', '{Backspace}');
    await waitFor(() => expect(screen.getByLabelText('Film, µm')).toBeValid());
  });

  it('is said field by field where several are wrong, and the rest below', async () => {
    const details = [
      'entries.0.count must not be greater than 24',
      'entries.0.reason must be shorter',
      'by is wrong',
    ];
    open({ file: () => new ServerProblem(details[0] ?? '', false, { message: details[0], details }, 400) });
    await fill();
    await press('File');
    expect(await screen.findByText('must not be greater than 24')).toBeInTheDocument();
    expect(screen.getByText('must be shorter')).toBeInTheDocument();
    expect(screen.getByRole('alert')).toHaveTextContent('entries.0.count must not be greater than 24');
  });
});

describe('units somebody chose', () => {
  const inch: ChosenUnits = { length: 'in', temperature: 'F' };

  it('are those of the fields: typed in them, limits told in them, filed metric', async () => {
    const { filed } = open({ units: inch });
    await fill();
    await type('Width, in', '2 3/16');
    await type('Film, mil', '4 3.9');
    await type('Air, °F', '200');
    await press('File');
    expect(await screen.findByText('-40 to 176 °F')).toBeInTheDocument();
    await userEvent.clear(screen.getByLabelText('Air, °F'));
    await type('Air, °F', '70');
    await press('File');
    await waitFor(() =>
      expect(filed).toMatchObject([{ widthMm: '55.5625', wetUm: '101.6 99.06', airC: '21.111111' }]),
    );
  });

  it('turn what is typed already when they change, and after a reload', async () => {
    const { choose } = open();
    await type('Width, mm', '50,8');
    choose(inch);
    expect(screen.getByLabelText('Width, in')).toHaveValue('2');
    reload({ units: inch });
    expect(screen.getByLabelText('Width, in')).toHaveValue('2');
  });
});

describe('bad input', () => {
  const NONSENSE = [
    'a'.repeat(1000),
    'مرحبا بالعالم',
    '🎸🪵🎸',
    '<img src=x onerror=alert(1)>',
    '=HYPERLINK("x")',
    '1\t2\t3',
    'NaN',
    '1e9',
    '0x10',
    '--1',
    '٣',
    '\u0000',
    '\u202E12',
  ];

  it.each(NONSENSE)('%j is no number in any field that wants one', async (text) => {
    const { filed } = open();
    await fill();
    for (const label of ['Width, mm', 'Air, °C', 'Film, µm']) {
      await userEvent.click(screen.getByLabelText(label));
      await userEvent.paste(text);
      await waitFor(() => expect(screen.getByLabelText(label)).not.toHaveValue(''));
    }
    await press('File');
    await waitFor(() => expect(screen.getByLabelText('Width, mm')).toBeInvalid());
    expect(screen.getByLabelText('Air, °C')).toBeInvalid();
    expect(filed).toEqual([]);
  });

  it('that is too long is told so and stays to be shortened; other scripts and signs are words like others', async () => {
    const { filed } = open();
    await fill();
    const reason = screen.getByLabelText('Reason');
    await userEvent.clear(reason);
    await userEvent.click(reason);
    await userEvent.paste('n'.repeat(1000));
    await press('File');
    expect(await screen.findByText('1000 characters, 200 at most')).toBeInTheDocument();
    expect(reason).toHaveValue('n'.repeat(1000));
    await userEvent.clear(reason);
    await userEvent.click(reason);
    await userEvent.paste('مرحبا 🎸 <b>x</b>');
    expect(reason).toHaveAttribute('dir', 'auto');
    await press('File');
    await waitFor(() => expect(filed).toMatchObject([{ reason: 'مرحبا 🎸 <b>x</b>' }]));
  });
});

describe('one of many', () => {
  it('is found by a scan: a code typed whole is that one, whatever else begins with it', async () => {
    const { filed } = open({ racks: ['B-200', 'B-201', 'B-20'] });
    await type('Pieces', '1');
    await type('Reason', 'x');
    await type('Rack', 'b-20{Enter}');
    expect(screen.getByLabelText('Rack')).toHaveValue('B-20');
    expect(filed).toEqual([]);
    await press('File');
    await waitFor(() => expect(filed).toMatchObject([{ rack: 'B-20' }]));
  });

  it('that is gone meanwhile is not filed: it is chosen again', async () => {
    open();
    await fill();
    const { filed } = reload({ racks: ['B-200'] });
    await press('File');
    expect(await screen.findByText('it is gone: choose again')).toBeInTheDocument();
    expect(filed).toEqual([]);
  });
});
