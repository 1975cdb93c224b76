import { parseReadingsSheet } from './readings-sheet.ts';

const parse = (text: string) => parseReadingsSheet(text, { quantity: 12 });

describe('a sheet of readings', () => {
  it('reads a CSV with a heading', () => {
    const sheet = parse('piece,reading,temperature\n1,7.1,20.5\n2,7.4,\n');
    expect(sheet.problems).toEqual([]);
    expect(sheet.readings).toEqual([
      { position: 1, readingPct: 7.1, woodTemperatureC: 20.5 },
      { position: 2, readingPct: 7.4, woodTemperatureC: null },
    ]);
  });

  it('reads one pasted column without a heading', () => {
    expect(parse('7.1\n7.4\n\n6.9').readings.map((r) => r.readingPct)).toEqual([7.1, 7.4, 6.9]);
  });

  it('reads another locale: semicolons and decimal commas', () => {
    expect(parse('board;moisture\r\n1;7,4\r\n2;7,1').readings.map((r) => r.readingPct)).toEqual([7.4, 7.1]);
    expect(parse('7,4\n7,1').readings.map((r) => r.readingPct)).toEqual([7.4, 7.1]);
  });

  it('reads what a spreadsheet puts on the clipboard', () => {
    expect(parse('Piece\tMC %\n3\t7.4').readings).toEqual([
      { position: 3, readingPct: 7.4, woodTemperatureC: null },
    ]);
  });

  it('names every bad cell by row and column and keeps the good rows', () => {
    const sheet = parse('piece,reading\n1,7.1\n2,wet\n13,7.2\n1,7.3\n4,140\n5,');
    expect(sheet.readings).toHaveLength(1);
    expect(sheet.problems).toEqual([
      { row: 3, column: 'reading', message: "'wet' is not a number" },
      { row: 4, column: 'piece', message: 'piece 13 is not on this rack of 12' },
      { row: 5, column: 'piece', message: 'piece 1 stands already in row 2' },
      { row: 6, column: 'reading', message: '140 % is outside 0–100 %' },
      { row: 7, column: 'reading', message: 'the reading is missing' },
    ]);
  });

  it('says what is missing when no column holds readings', () => {
    expect(parse('colour,grade\nred,A').problems[0]?.message).toMatch(/no column of readings/);
    expect(parse('  ').problems[0]?.message).toBe('the sheet is empty');
  });

  it('refuses a sheet that is no sheet', () => {
    expect(parse(Array.from({ length: 2500 }, () => '7').join('\n')).problems[0]?.message).toMatch(
      /at most 2000/,
    );
  });
});
