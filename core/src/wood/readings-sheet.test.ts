import { parseClimateSheet } from './climate-sheet.ts';
import { parseReadingsSheet, sheetHeadings } from './readings-sheet.ts';

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
    const [problem] = parse('colour,grade\nred,A').problems;
    expect(problem).toMatchObject({ code: 'no-readings-column' });
    expect(problem?.message).toMatch(/no column of readings/);
    expect(parse('  ').problems[0]?.message).toBe('the sheet is empty');
  });

  it('refuses a sheet that is no sheet', () => {
    expect(parse(Array.from({ length: 2500 }, () => '7').join('\n')).problems[0]?.message).toMatch(
      /at most 2000/,
    );
  });

  it('takes the columns somebody chose, for headings that say nothing by themselves', () => {
    const text = 'Stk;Wert A;Wert B;T\n1;18;7,4;20,5\n2;19;7,1;20,5';
    expect(sheetHeadings(text)).toEqual(['Stk', 'Wert A', 'Wert B', 'T']);
    const columns = { position: 'Stk', reading: 'Wert B', temperature: 'T' };
    expect(parseReadingsSheet(text, { quantity: 12, columns }).readings).toEqual([
      { position: 1, readingPct: 7.4, woodTemperatureC: 20.5 },
      { position: 2, readingPct: 7.1, woodTemperatureC: 20.5 },
    ]);
    expect(
      parseReadingsSheet(text, { quantity: 12, columns: { ...columns, reading: 'X' } }).problems[0]?.message,
    ).toMatch(/no column 'X'/);
  });
});

describe('a climate logger’s file', () => {
  it('is read by its headings, in any order and locale', () => {
    expect(parseClimateSheet('No;RH %;Temp;Time\n1;41,5;20,8;2026-06-01 08:00').rows).toEqual([
      { row: 2, time: '2026-06-01 08:00', temperatureC: 20.8, relativeHumidityPct: 41.5 },
    ]);
    expect(parseClimateSheet('2026-06-01 08:00,20.8,41.5').rows).toHaveLength(1);
  });

  it('names every bad cell and keeps the good rows', () => {
    const sheet = parseClimateSheet(
      'time,temperature,humidity\n08:00,,41\n09:00,21,140\n10:00,21,40\n,21,40\n11:00,warm,40',
    );
    expect(sheet.rows.map((row) => row.row)).toEqual([4]);
    expect(sheet.problems.map((p) => `${p.row} ${p.message}`)).toEqual([
      '2 the temperature is missing',
      '3 140 is outside 0–100',
      '5 the time is missing',
      "6 'warm' is not a number",
    ]);
    expect(parseClimateSheet('time,pressure\n1,2').problems[0]?.message).toMatch(/temperature and humidity/);
    expect(parseClimateSheet('').problems).toHaveLength(1);
  });
});
