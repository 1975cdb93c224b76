import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { asOptions, Choice } from './Choice.tsx';
import { NumberField } from './NumberField.tsx';
import { Words } from './Words.tsx';

describe('words', () => {
  function Reason({ most }: { most?: number }) {
    const [text, setText] = useState('');
    return <Words label="Reason" value={text} onChange={setText} {...(most ? { most } : {})} />;
  }

  it('are cut where the server would refuse them', async () => {
    render(<Reason most={10} />);
    await userEvent.type(screen.getByLabelText('Reason'), 'the customer waits');
    expect(screen.getByLabelText('Reason')).toHaveValue('the custom');
  });
});

describe('a number of a draft', () => {
  function Film({ optional }: { optional?: boolean }) {
    const [value, setValue] = useState<number | null>(100);
    return (
      <>
        <NumberField label="Film" value={value} onChange={setValue} {...(optional ? { optional } : {})} />
        <output>{value === null ? 'none' : value}</output>
      </>
    );
  }

  it('keeps the last good number while what is typed is none', async () => {
    render(<Film />);
    await userEvent.clear(screen.getByLabelText('Film'));
    expect(screen.getByText('a number')).toBeInTheDocument();
    expect(screen.getByRole('status')).toHaveTextContent('100');
    await userEvent.type(screen.getByLabelText('Film'), '-7,5');
    expect(screen.getByRole('status')).toHaveTextContent('-7.5');
  });

  it('is none when it may be left out', async () => {
    render(<Film optional />);
    await userEvent.clear(screen.getByLabelText('Film'));
    expect(screen.queryByText('a number')).toBeNull();
    expect(screen.getByRole('status')).toHaveTextContent('none');
  });
});

describe('a choice', () => {
  function Booth() {
    const [value, setValue] = useState('');
    return (
      <>
        <Choice
          label="Booth"
          value={value}
          onChange={setValue}
          options={asOptions(['booth-1', 'booth-2'])}
          none="the usual"
        />
        <output>{value || 'nothing said'}</output>
      </>
    );
  }

  it('says what is meant while nothing is chosen, and can go back to it', async () => {
    render(<Booth />);
    const box = screen.getByRole('combobox', { name: 'Booth' });
    expect(box).toHaveTextContent('the usual');
    await userEvent.click(box);
    await userEvent.click(screen.getByRole('option', { name: 'booth-2' }));
    expect(screen.getByRole('status')).toHaveTextContent('booth-2');
    await userEvent.click(box);
    await userEvent.click(screen.getByRole('option', { name: 'the usual' }));
    expect(screen.getByRole('status')).toHaveTextContent('nothing said');
  });

  it('is worked by the keyboard', async () => {
    render(<Booth />);
    await userEvent.tab();
    await userEvent.keyboard('{Enter}{ArrowDown}{Enter}');
    expect(screen.getByRole('status')).toHaveTextContent('booth-1');
  });
});
