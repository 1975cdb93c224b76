import { fireEvent, render, screen } from '@testing-library/react';
import { useState } from 'react';
import { DayField } from './DayField.tsx';

/** The field as a form has it, and what it has made of what was typed. */
function Asked({ at = '2027-01-18' }) {
  const [day, setDay] = useState(at);
  return (
    <>
      <DayField label="Due" value={day} onChange={setDay} zone="America/Chicago" problem={day || 'no day'} />
      <output>{day}</output>
    </>
  );
}
const typed = (text: string): void => {
  fireEvent.change(document.querySelector('input') as HTMLInputElement, { target: { value: text } });
};

describe('a day', () => {
  it('is shown as people say it, and says what is wrong with it', () => {
    render(<Asked />);
    expect(screen.getByRole('group', { name: 'Due' })).toHaveTextContent('18 Jan 2027');
    expect(screen.getByText('2027-01-18', { selector: 'p' })).toBeInTheDocument();
  });

  it('is the day of the factory that is typed, and none while it is not one', () => {
    render(<Asked />);
    typed('3 Mar 2027');
    expect(screen.getByRole('status')).toHaveTextContent('2027-03-03');
    typed('');
    expect(screen.getByRole('status')).toBeEmptyDOMElement();
    expect(screen.getByText('no day')).toBeInTheDocument();
  });
});
