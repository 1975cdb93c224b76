import { render, screen, waitFor } from '@testing-library/react';
import type { ChosenUnits } from '@ample-crane/core';
import { turnPage } from './page-units.ts';

const INCH: ChosenUnits = { length: 'in', temperature: 'F' };
let stop: (() => void) | null = null;
afterEach(() => {
  stop?.();
  stop = null;
});

function Air({ celsius, film, items = [] }: { celsius: number; film?: number; items?: string[] }) {
  return (
    <>
      <p data-testid="air">
        {celsius.toFixed(1)} °C, {45} % RH{film === undefined ? '' : `, ${film} µm`}
      </p>
      <ul aria-label={`${celsius} °C outside`}>
        {items.map((item) => (
          <li key={item}>{item}</li>
        ))}
      </ul>
    </>
  );
}
const air = () => screen.getByTestId('air');

describe('a page in the units somebody chose', () => {
  it('is turned where numbers and units are texts of their own, and follows what is drawn anew', async () => {
    const { rerender } = render(<Air celsius={21.5} film={100} />);
    stop = turnPage(document.body, INCH);
    expect(air()).toHaveTextContent('70.7 °F, 45 % RH, 3.9 mil');
    expect(screen.getByLabelText('70.7 °F outside')).toBeInTheDocument();
    // Only the number is drawn anew, then only what is behind it, then the number that stood there already.
    rerender(<Air celsius={20} film={100} />);
    await waitFor(() => expect(air()).toHaveTextContent('68.0 °F, 45 % RH, 3.9 mil'));
    expect(await screen.findByLabelText('68 °F outside')).toBeInTheDocument();
    rerender(<Air celsius={20} />);
    await waitFor(() => expect(air()).toHaveTextContent(/^68\.0 °F, 45 % RH$/));
    rerender(<Air celsius={68} />);
    await waitFor(() => expect(air()).toHaveTextContent('154.4 °F'));
    rerender(<Air celsius={68} film={25.4} />);
    await waitFor(() => expect(air()).toHaveTextContent('154.4 °F, 45 % RH, 1.00 mil'));
  });

  it('turns what comes, keeps what moves, and turns nothing twice', async () => {
    const { rerender } = render(<Air celsius={20} items={['10 °C', '20 °C']} />);
    stop = turnPage(document.body, INCH);
    const items = () => screen.getAllByRole('listitem').map(({ textContent }) => textContent);
    expect(items()).toEqual(['50 °F', '68 °F']);
    rerender(<Air celsius={20} items={['20 °C', '30 °C', '10 °C']} />);
    await waitFor(() => expect(items()).toEqual(['68 °F', '86 °F', '50 °F']));
    rerender(<Air celsius={20} items={['10 °C']} />);
    await waitFor(() => expect(items()).toEqual(['50 °F']));
    rerender(<Air celsius={20} items={['20 °C', '10 °C']} />);
    await waitFor(() => expect(items()).toEqual(['68 °F', '50 °F']));
  });

  it('is as it was drawn again when metric is chosen', () => {
    const { rerender } = render(<Air celsius={20} items={['10 °C']} />);
    stop = turnPage(document.body, INCH);
    stop();
    expect(air()).toHaveTextContent('20.0 °C, 45 % RH');
    expect(screen.getByLabelText('20 °C outside')).toBeInTheDocument();
    expect(screen.getByRole('listitem')).toHaveTextContent('10 °C');
    rerender(<Air celsius={25} />);
    expect(air()).toHaveTextContent('25.0 °C');
  });

  it('leaves what is typed as it is', () => {
    render(<input aria-label="Log" defaultValue="B-1 coat 100 µm" />);
    stop = turnPage(document.body, INCH);
    expect(screen.getByLabelText('Log')).toHaveValue('B-1 coat 100 µm');
  });
});
