import { parseStoreSheet } from './index.ts';

const KEPT = [
  { code: 'C-101', name: 'Tuners', supplier: 'Oakum & Daughters' },
  { code: 'C-102', name: 'Bridge', supplier: 'Oakum & Daughters' },
];
const HEAD = 'code,name,unit,supplier,lead_days,weight_g,on_hand,counted';
const read = (...rows: string[]) => parseStoreSheet([HEAD, ...rows].join('\n'), KEPT);

describe('the sheet of a store', () => {
  it('counts what is kept, keeps what is not, and leaves alone what nobody counted', () => {
    const sheet = read(
      'c-101,Tuners,set,Oakum & Daughters,28,180,40,38',
      'C-102,Bridge,piece,Oakum & Daughters,28,180,12,',
      ',"Knob, domed",piece,Tallow Row,14,"4,5",,120',
      ',Strap pin,pair,Tallow Row,7,,,',
      ',,,,,,,',
    );
    expect(sheet.problems).toEqual([]);
    expect(sheet.rows).toEqual([
      { row: 2, code: 'C-101', counted: 38 },
      {
        row: 4,
        part: {
          type: 'part',
          name: 'Knob, domed',
          unit: 'piece',
          supplier: 'Tallow Row',
          leadDays: 14,
          weightG: 4.5,
        },
        counted: 120,
      },
      {
        row: 5,
        part: { type: 'part', name: 'Strap pin', unit: 'pair', supplier: 'Tallow Row', leadDays: 7 },
        counted: null,
      },
    ]);
  });

  it('names every bad cell by row and column, and keeps the good rows apart', () => {
    const { rows, problems } = read(
      'C-900,Nut,piece,Tallow Row,7,,,4',
      'C-101,,,,,,,many',
      'C-101,,,,,,,-1',
      'C-102,,,,,,,2.5',
      ',tuners,set,oakum & daughters,7,,,',
      ',Nut,,Tallow Row,,0,,3',
      `,${'x'.repeat(81)},piece,Tallow Row,7,,,`,
      ',Saddle,piece,Tallow Row,9,,,8',
      ',Saddle,piece,Tallow Row,9,,,8',
    );
    expect(problems.map(({ row, column, message }) => `${row} ${column}: ${message}`)).toEqual([
      '2 code: there is no part C-900: leave its code empty to keep it from now on',
      "3 counted: 'many' is not a number",
      '4 counted: -1 is outside 0 to 1000000',
      '4 code: C-101 stands already in row 3',
      "5 counted: '2.5' is not a whole number",
      '6 name: C-101 is called so already',
      '7 weight_g: 0 is outside 0.1 to 20000',
      '7 lead_days: it is missing',
      '7 unit: it is missing',
      '8 name: at most 80 letters',
      '10 name: the part stands already in row 9',
    ]);
    expect(rows.map(({ row }) => row)).toEqual([9]);
  });

  it('reads no thousands as one: a spreadsheet that writes 1,000 is asked to write 1000', () => {
    const { rows, problems } = parseStoreSheet('code;counted\nC-101;1,000\nC-102;1000', KEPT);
    expect(problems).toMatchObject([{ row: 2, column: 'counted', message: "'1,000' is not a whole number" }]);
    expect(rows).toEqual([{ row: 3, code: 'C-102', counted: 1000 }]);
  });

  it.each([
    ['', 'the sheet is empty'],
    ['a;b\n1;2', "no column 'code' or 'name' (found: a, b)"],
    ['code,counted,Counted\nC-101,1,2', "there are two columns 'counted'"],
    [`code\n${'C-101\n'.repeat(5001)}`, 'the sheet has 5001 rows; at most 5000 are read at once'],
  ])('says what is wrong with all of it: %#', (text, message) => {
    expect(parseStoreSheet(text, KEPT)).toEqual({
      rows: [],
      problems: [expect.objectContaining({ message })],
    });
  });

  it('takes semicolons and tabs, and headings as people write them', () => {
    const semicolons = parseStoreSheet('Code;Counted\nC-101;7', KEPT);
    const tabs = parseStoreSheet('\uFEFFNAME\tUnit\tsupplier\tlead days\nNut\tpiece\tTallow Row\t9', KEPT);
    expect(semicolons.rows).toEqual([{ row: 2, code: 'C-101', counted: 7 }]);
    expect(tabs.rows).toMatchObject([{ part: { name: 'Nut', leadDays: 9 }, counted: null }]);
  });
});
