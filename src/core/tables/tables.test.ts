import { describe, expect, it } from 'vitest';
import { printOds } from '../formats/index.ts';
import { strFromU8, unzipSync } from 'fflate';
import { asWritten, columnNames, ColumnInference, layoutOf, readCards, readOdsContent, workbookText } from './index.ts';

const judged = (...values: string[]) => {
  const judge = new ColumnInference('x');
  values.forEach((value, at) => judge.add(value, at + 2));
  return judge.found();
};
const kind = (...values: string[]) => {
  const { type, written } = judged(...values);
  return [type, written];
};

describe('a column is judged over all of its values', () => {
  it.each<[string[], string, string]>([
    [['a@b.example', 'c@d.example'], 'email', 'as it is'],
    [['+44 1632 960001', ''], 'phone', 'as it is'],
    [['2026-03-01'], 'date', 'as it is'],
    [['01.03.2026', '02.03.2026'], 'date', 'day first'],
    [['01/03/2026', '13/03/2026'], 'date', 'day first'],
    [['01/03/2026', '03/13/2026'], 'date', 'month first'],
    [['01/03/2026', '02/03/2026'], 'date', 'as it is'],
    [['13/03/2026', '03/13/2026'], 'date', 'as it is'],
    [['1.234,50', '7'], 'number', 'decimal comma'],
    [['1,234.50', '7'], 'number', 'decimal point'],
    [['1.234', '5.678'], 'number', 'as it is'],
    [['12,5', '12.5'], 'number', 'as it is'],
    [['00123', '00124'], 'text', 'as it is'],
    [['yes', 'No', 'ja'], 'yes/no', 'as it is'],
    [['9:30', '19:30'], 'time', 'as it is'],
    [['https://hill.example/a'], 'URL', 'as it is'],
    [['one', 'two\nlines'], 'long text', 'as it is'],
    [['', ' '], 'text', 'as it is'],
    [['2026-02-30'], 'text', 'as it is'],
  ])('%j', (values, type, written) => expect(kind(...values)).toEqual([type, written]));

  it('shows what it was judged by, and the few that are not like the others', () => {
    const found = judged(...Array.from({ length: 20 }, (_, at) => `p${at}@hill.example`), 'no address');
    expect(found).toMatchObject({ type: 'email', filled: 21, fits: 20, misfits: [{ row: 22, value: 'no address' }] });
    expect(found.because).toBe('20 of 21 are like that.');
    expect(judged('01/03/2026', '13/03/2026').because).toContain('row 3 has 13/03/2026');
    expect(judged('01/03/2026').because).toContain('say whether the day or the month is first');
  });
});

describe('values of a column are written as they are everywhere', () => {
  it.each([
    ['01.03.2026', 'day first', '2026-03-01'],
    ['03/01/2026', 'month first', '2026-03-01'],
    ['1.234,5', 'decimal comma', '1234.5'],
    ['1,234.5', 'decimal point', '1234.5'],
    // What is none of it stays as it came, and is refused where it is read.
    ['31.02.2026', 'day first', '31.02.2026'],
    ['soon', 'day first', 'soon'],
    ['', 'decimal comma', ''],
    ['1.234', 'as it is', '1.234'],
  ] as const)('%j, %s: %j', (text, written, plain) => expect(asWritten(text, written)).toBe(plain));
});

describe('the layout of a text is judged', () => {
  it.each([
    ['a,b\n1,2\n', ',', true],
    ['a;b\n"1;2";3\n', ';', true],
    ['a\tb\n1\t2', '\t', true],
    ['a|b\n1|2\n', '|', true],
    ['Name;Note\nMara;"one, two"\nTobin;"three, four"\n', ';', true],
    ['a@b.example,1\nc@d.example,2\n', ',', false],
    ['email\na@b.example\nc@d.example\n', ',', true],
    ['1,2\n3,4\n', ',', false],
  ])('%j', (text, delimiter, header) => expect(layoutOf(text)).toMatchObject({ delimiter, header }));

  it('names columns, each its own', () => {
    expect(columnNames([' Name ', '', 'Name'], true)).toEqual(['Name', 'Column 2', 'Name 2']);
    expect(columnNames(['1', '2'], false)).toEqual(['Column 1', 'Column 2']);
  });
});

describe('sheets', () => {
  it('of our own are read as they were written', () => {
    const { 'content.xml': content } = unzipSync(
      printOds(
        'People',
        ['Name', 'Count'],
        [
          ['Mara & "Co" <x>', 12.5],
          ['=1+1', 0],
        ],
      ),
    );
    const [sheet] = readOdsContent(strFromU8(content ?? new Uint8Array()));
    expect(sheet).toEqual({
      name: 'People',
      rows: [
        ['Name', 'Count'],
        ['Mara & "Co" <x>', '12.5'],
        ['=1+1', '0'],
      ],
    });
  });
  it('give days without their midnight', () => {
    expect(workbookText(new Date('2026-03-01T00:00:00Z'))).toBe('2026-03-01');
    expect([true, null, 7, 'x'].map(workbookText)).toEqual(['yes', '', '7', 'x']);
  });
});

describe('cards', () => {
  it('of both versions are rows, with the preferred of several', () => {
    const cards = [
      'BEGIN:VCARD',
      'VERSION:4.0',
      'FN:Mara Quill',
      'N:Quill;Mara;Anne;;',
      'EMAIL;PREF=2:old@hill.example',
      'EMAIL;PREF=1:mara@hill.example',
      'TEL;VALUE=uri:tel:+44-1632-960-001',
      'ADR:;;Ridge Road 1;Pellam;;PE1 1AA;GB',
      'BDAY:19900502',
      'END:VCARD',
      'BEGIN:VCARD',
      'VERSION:3.0',
      'FN:Tobin',
      'EMAIL:one@hill.example',
      'EMAIL;TYPE=pref:two@hill.example',
      'NOTE:with\\, a comma',
      'END:VCARD',
    ].join('\r\n');
    const [mara, tobin] = readCards(cards);
    expect(mara).toMatchObject({
      'Full name': 'Mara Quill',
      'Family name': 'Quill',
      'Given name': 'Mara',
      Email: 'mara@hill.example',
      Phone: '+44-1632-960-001',
      Street: 'Ridge Road 1',
      City: 'Pellam',
      Postcode: 'PE1 1AA',
    });
    expect(tobin).toMatchObject({ 'Full name': 'Tobin', Email: 'two@hill.example', Note: 'with, a comma' });
  });
});

describe('a column of digits', () => {
  const judged = (...values: string[]) => {
    const judge = new ColumnInference('Postcode');
    values.forEach((value, at) => judge.add(value, at + 2));
    return judge.found().type;
  };
  it.each([
    [
      'with a nought before some of them',
      ['10115', '80331', '01999', '50667', '20095', '60311', '70173', '04109'],
      'text',
    ],
    ['with one such among many', [...Array.from({ length: 40 }, (_, at) => String(10_000 + at)), '01999'], 'text'],
    ['with more digits than a number keeps', ['12345678901234567', '12345678901234568'], 'text'],
    ['of amounts', ['10', '0', '0.5', '1999'], 'number'],
  ])('%s is %s', (_, values, type) => expect(judged(...values)).toBe(type));
});
