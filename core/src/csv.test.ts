import Papa from 'papaparse';
import { csvOf } from './csv.ts';

describe('a table as CSV', () => {
  it('writes numbers as people write them', () => {
    expect(csvOf(['pct'], [[8.7 + 1e-15], [0.1 + 0.2], [-0.05], [1200]])).toBe(
      'pct\r\n8.7\r\n0.3\r\n-0.05\r\n1200\r\n',
    );
  });

  it('never hands a spreadsheet a formula, whatever somebody typed as a name', () => {
    for (const name of ['=1+1', '+SUM(A1)', '-2+3', '@now', '\t=1'])
      expect(csvOf(['who', 'n'], [[name, 1]]).split('\r\n')[1]).toMatch(/^"?'/);
  });

  it('comes back as it went out, commas, quotes and line ends in it', () => {
    const rows = [['Body "A", left', 'two\nlines', 7.25, null]];
    expect(Papa.parse(csvOf(['a', 'b', 'c', 'd'], rows).trimEnd()).data[1]).toEqual([
      'Body "A", left',
      'two\nlines',
      '7.25',
      '',
    ]);
  });
});
