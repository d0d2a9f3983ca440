import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { judge, sightAsHeld } from '../judging';
import { procedures } from '../procedures';
import { unitLabel } from '../quantities';
import { attemptsOf, readRecord, type TestRecord, verdictShapes, verdictWords } from '../record';
import { type Block, type Paper, paperOf, receiptOf, textsOf } from './index';
import { dateWords, hourText, momentText, spanText, zoneText } from './times';

const folder = join(import.meta.dirname, '../../../docs/examples');
const examples = readdirSync(folder).map((file) => {
  const read = readRecord(JSON.parse(readFileSync(join(folder, file), 'utf8')));
  if (!read.ok) throw new Error(read.problem.message);
  return [file.replace('.json', ''), read.value] as const;
});

const wordsOf = ({ blocks }: Paper): string => blocks.flatMap(textsOf).join('\n');
const of = <K extends Block['kind']>({ blocks }: Paper, kind: K) =>
  blocks.filter((block): block is Extract<Block, { kind: K }> => block.kind === kind);
const front = (paper: Paper): readonly Block[] =>
  paper.blocks.slice(
    0,
    paper.blocks.findIndex(({ kind }) => kind === 'page'),
  );

/** The clock of a place by the engine’s own calendar, of which the core knows nothing. */
const clock = (at: number, offsetMinutes: number) => new Date(at + offsetMinutes * 60_000).toISOString().slice(11, 19);

test('every procedure has its example, and each gives a paper', () => {
  expect(examples.map(([id]) => id).sort()).toEqual(procedures.map(({ id }) => id).sort());
});

describe.each(examples)('%s', (_, record) => {
  const paper = paperOf(record);
  const words = wordsOf(paper);
  const [{ attempts }] = record.tests;
  const last = attempts[attempts.length - 1];
  const judgement = judge(last.plan, last.events);

  test('every figure that was read stands on it with its unit, its moment and its writer', () => {
    const rows = of(paper, 'table')
      .filter(({ caption }) => caption === 'Figures as they were read')
      .flatMap((block) => block.rows);
    for (const { events } of attempts) {
      const read = events.flatMap((event) => (event.type === 'reading' ? [event] : []));
      for (const event of read.length <= 60 ? read : read.filter(({ role }) => role !== 'between')) {
        const found = rows.filter(
          ([when, , , value]) =>
            when === clock(event.observedAt, event.offsetMinutes) &&
            value === `${event.qualifier === undefined ? '' : 'below '}${event.value} ${unitLabel(event.unit)}`,
        );
        expect([event.value, event.unit, found.length > 0]).toEqual([event.value, event.unit, true]);
      }
    }
  });

  test('every instrument stands on it with its serial, its range and its calibration', () => {
    const rows = of(paper, 'table')
      .filter(({ caption }) => caption.startsWith('Instruments'))
      .flatMap((block) => block.rows);
    const named = attempts.flatMap(({ plan }) => [
      plan.gauge,
      ...Object.values(plan.instruments ?? {}),
      ...(plan.weather?.thermometer === undefined ? [] : [plan.weather.thermometer]),
      ...(plan.weather?.barometer === undefined ? [] : [plan.weather.barometer]),
    ]);
    for (const instrument of named) {
      if (instrument.id === 'none') continue;
      const row = rows.find(
        ([name, , shows]) =>
          name.startsWith(instrument.name) && shows.includes(unitLabel(instrument.unit)) && shows.includes(instrument.rangeHigh),
      );
      if (row === undefined) {
        expect([instrument.name, last.plan.phases.some(({ kind }) => kind === 'hold')]).toEqual([instrument.name, false]);
        continue;
      }
      expect(row[1]).toBe(instrument.serial === '' ? 'none stated' : instrument.serial);
      expect(row[2]).toContain(`${instrument.readability} ${unitLabel(instrument.unit)}`);
      expect(row[2]).toContain(`${instrument.rangeLow} to ${instrument.rangeHigh} ${unitLabel(instrument.unit)}`);
      if (instrument.calibration.needed) expect(row[3]).toContain(instrument.calibration.due);
      else expect(row[3]).toContain('needs none');
    }
  });

  test('no figure stands beside a unit that neither record nor judgement has', () => {
    const units = [...new Set(['L/h', 'mL/h', 'bar', 'mbar', 'psi', 'mm', 'CFM', 'in WC', 'kPa', 'turn', 'US gal', 'L', '%', 'Pa'])];
    const known = JSON.stringify([
      record,
      judgement,
      attempts.map(({ plan, events }) => [judge(plan, events), sightAsHeld(plan, judge(plan, events))]),
    ]);
    const stated = new Set([...known.matchAll(/-?\d+(?:\.\d+)?/g)].map(([figure]) => Number(figure)));
    const spoken = paper.blocks.filter(({ kind }) => kind !== 'drawing').flatMap(textsOf);
    const pattern = new RegExp(`(-?\\d+(?:\\.\\d+)?) (${units.join('|').replaceAll('/', '\\/')})(?![\\w/])`, 'g');
    let looked = 0;
    for (const text of spoken)
      for (const [, figure, unit] of text.matchAll(pattern)) {
        looked += 1;
        // A percentage is worked out of a share; a rounded sum of a let-by’s seconds has no unit here.
        const near = [...stated].some(
          (one) =>
            Math.abs(Math.abs(one) - Math.abs(Number(figure))) <= 1e-9 || (unit === '%' && Math.abs(one * 100 - Number(figure)) < 1e-6),
        );
        expect([text.slice(0, 120), figure, unit, near]).toEqual([text.slice(0, 120), figure, unit, true]);
      }
    expect(looked).toBeGreaterThan(last.plan.procedure.id === 'pool-dye-static' ? -1 : 5);
  });

  test('its first page answers: verdict, what for, figures of that trade, the picture, what it can see, what was not tested', () => {
    const blocks = front(paper);
    const kinds = blocks.map(({ kind }) => kind);
    expect(kinds).toContain('verdict');
    expect(kinds).toContain('drawing');
    const verdict = blocks.find((block) => block.kind === 'verdict');
    expect(verdict).toMatchObject({ verdict: judgement.verdict, title: verdictWords[judgement.verdict].title });
    for (const title of ['What this test can see', 'Not tested', 'Test again'])
      expect(blocks.some((block) => block.kind === 'heading' && block.text === title)).toBe(true);
    for (const line of last.plan.notTested) expect(words).toContain(line);
    // Every figure of the front page is one that a phase came to.
    const shown = blocks.flatMap((block) => (block.kind === 'figures' ? block.figures : []));
    const came = JSON.stringify(judgement.phases);
    for (const { value } of shown) expect(came).toContain(value.replace(/^under /, ''));
  });

  test('it says nothing of the device, nothing that nobody stated, and every step that was ticked with its answer', () => {
    expect(words).not.toMatch(/slept|\bpen\b|undefined|NaN|\[object|null/);
    expect(words).not.toMatch(/not recorded|Meter number/);
    const steps = of(paper, 'table')
      .filter(({ caption }) => caption.startsWith('Steps'))
      .flatMap((block) => block.rows);
    const ticked = last.events.flatMap((event) => (event.type === 'check' && event.state !== 'undone' ? [event] : []));
    for (const { phase, item } of ticked) {
      const own = last.plan.phases.find(({ id }) => id === phase);
      const text = own?.kind === 'check' ? own.items.find(({ id }) => id === item)?.text : undefined;
      if (text !== undefined) expect(steps.some(([step]) => step === text)).toBe(true);
    }
  });

  test('the same record gives the same paper', () => expect(paperOf(structuredClone(record) as TestRecord)).toEqual(paper));
});

describe('what stands once', () => {
  const [, record] = examples.find(([id]) => id === 'domestic-gas-millibar') ?? examples[0];
  const sealed = (change: Partial<TestRecord> = {}): TestRecord => ({
    ...record,
    firm: {
      name: 'Lindqvay',
      address: '4 Ropewalk Yard',
      registration: 'NR-1',
      emergency: '0000 1',
      supplier: '0000 2',
      locale: 'en-US',
      sheet: 'letter',
    },
    certificate: {
      number: '2026-00001',
      issuedAt: Date.UTC(2026, 0, 5, 23, 30),
      issuedOn: '2026-01-06',
      offsetMinutes: 90,
      layout: '1',
      checkCode: 'a',
      checkAddress: 'http://x/check/a',
      catalogue: '1',
      corrects: { number: '2025-00009', reason: 'Meter number mistyped' },
    },
    ...change,
  });

  test('firm, its numbers, its sheet and its zone; a date falls on the day that it was there', () => {
    const paper = paperOf(sealed());
    expect(paper).toMatchObject({
      size: 'letter',
      title: 'Certificate of a tightness test 2026-00001',
      firm: { name: 'Lindqvay', lines: ['4 Ropewalk Yard', 'Registration NR-1'] },
    });
    expect(wordsOf(paper)).toContain('No. 2026-00001, issued January 6, 2026, 1:00 am (UTC+1:30)');
    expect(wordsOf(paper)).toContain('This stands in place of No. 2025-00009: Meter number mistyped');
    expect(wordsOf(paper)).toContain('In an emergency: 0000 1. The supplier: 0000 2.');
  });

  test('a visit: each test has its own judgement, its own page and its own details; the worst is pointed at', () => {
    const [, drain] = examples.find(([id]) => id === 'drain-level-hold') ?? examples[0];
    const visit = sealed({ tests: [...record.tests, ...drain.tests] });
    const paper = paperOf(visit);
    expect(paper.title).toContain('Report of a visit');
    expect(of(paper, 'verdict').map(({ verdict }) => verdict)).toEqual(
      attemptsOf(visit).map(({ plan, events }) => judge(plan, events).verdict),
    );
    const [table] = of(paper, 'table');
    expect(table.rows).toHaveLength(2);
    expect(wordsOf(paper)).toContain('Each has its own judgement');
    expect(wordsOf(paper)).toMatch(/at least one test here is “invalid”/);
  });

  test('of several attempts each has its own steps: what was left undone in one is not covered by the next', () => {
    const [first] = record.tests;
    const [attempt] = first.attempts;
    const ticks = attempt.events.filter(({ type }) => type === 'check');
    const before = attempt.events.slice(0, attempt.events.indexOf(ticks[1]));
    const { judgement: _, ...bare } = attempt;
    const paper = paperOf(
      sealed({
        tests: [
          {
            ...first,
            attempts: [
              { ...bare, events: before },
              { ...bare, number: 2 },
            ],
          },
        ],
      }),
    );
    const steps = (number: number) =>
      of(paper, 'table').flatMap(({ caption, rows }) => (caption === `Steps of attempt ${number} and their answers` ? rows : []));
    const answered = (number: number) => steps(number).filter(([, answer]) => answer !== 'not done').length;
    expect(answered(1)).toBe(1);
    expect(steps(1).length).toBeGreaterThan(1);
    expect(answered(2)).toBe(ticks.length);
  });

  test('a house figure stands beside the procedure’s own', () => {
    const [first] = record.tests;
    const [attempt] = first.attempts;
    const figures = attempt.plan.figures.map((one, index) =>
      index === 0 ? { ...one, value: '90', source: 'house rule' as const, reference: 'House 3' } : one,
    );
    const changed = { ...record, tests: [{ ...first, attempts: [{ ...attempt, plan: { ...attempt.plan, figures } }] }] };
    const rows = of(paperOf(changed), 'table').find(({ caption }) => caption.startsWith('Figures other'))?.rows;
    expect(rows).toEqual([
      [figures[0].label, `90 ${figures[0].unit}`, `${figures[0].procedureValue} ${figures[0].unit}`, 'house rule: House 3'],
    ]);
  });

  test('signatures: signed, refused, nobody there, by private link; who signs for two tests stands once', () => {
    const signature = { judgementHash: 'a'.repeat(64), signedAt: Date.UTC(2026, 0, 5, 10), strokes: [[0, 0, 10, 10, 20, 0, 30, 10]] };
    const paper = (signatures: TestRecord['signatures']) => of(paperOf(sealed({ signatures })), 'signatures')[0].signatures;
    const [technician, customer] = paper([
      { ...signature, role: 'technician', name: 'Iola' },
      { ...signature, role: 'technician', name: 'Iola', judgementHash: 'b'.repeat(64) },
      { ...signature, role: 'customer', name: 'Sefa', absent: 'wants to ask first', refused: true, strokes: [] },
    ]);
    expect(technician.said).toBe('Iola, January 5, 2026, 11:30 am (UTC+1:30)');
    // A licence stands beside the name that it belongs to, whoever tested.
    const people = [
      { id: 'one', name: 'Iola', licence: 'PW-1' },
      { id: 'two', name: 'Wren', licence: 'PW-2' },
    ];
    const said = (name: string) =>
      of(paperOf(sealed({ people, signatures: [{ ...signature, role: 'technician', name }] })), 'signatures')[0].signatures[0].said;
    expect(said('Wren')).toMatch(/^Wren, licence PW-2, /);
    expect(said('Somebody')).toMatch(/^Somebody, January/);
    expect(customer).toMatchObject({ said: expect.stringMatching(/^Sefa would not sign: wants to ask first/), strokes: [] });
    expect(paper([{ ...signature, role: 'customer', name: 'Nobody', absent: 'moved out', strokes: [] }])[1].said).toMatch(
      /^nobody signed: moved out/,
    );
    expect(paper([{ ...signature, role: 'customer', name: 'Sefa', remote: true }])[1].said).toMatch(/by private link$/);
    expect(paper([{ ...signature, role: 'supervisor', name: 'Wren' }]).map(({ role }) => role)).toEqual([
      'Technician',
      'Customer or witness',
      'Supervisor',
    ]);
  });

  test('a photograph that never came is said, and one that is here names its copy', () => {
    const [first] = record.tests;
    const [attempt] = first.attempts;
    const [event] = attempt.events;
    const photo = (hash: string, seq: number) =>
      ({ ...event, id: event.id.replace(/.$/, String(seq)), type: 'photo', hash, takenAt: event.observedAt, text: 'hob' }) as never;
    const events = [...attempt.events, photo('a'.repeat(64), 1), photo('b'.repeat(64), 2)];
    const paper = paperOf({
      ...sealed({ tests: [{ ...first, attempts: [{ ...attempt, events }] }] }),
      photos: [
        { run: attempt.run, hash: 'a'.repeat(64), stored: 'c'.repeat(64), copy: 'd'.repeat(64), takenAt: 1 },
        { run: attempt.run, hash: 'b'.repeat(64), takenAt: 1 },
      ],
      seal: {
        algorithm: 'ed25519',
        keyId: 'k',
        publicKey: `${'A'.repeat(43)}=`,
        previous: '0'.repeat(64),
        sealedAt: 1,
        hash: 'e'.repeat(64),
        signature: 'x',
      },
    });
    expect(of(paper, 'photographs')[0].photographs.map(({ copy }) => copy)).toEqual(['d'.repeat(64), undefined]);
    expect(wordsOf(paper)).toContain('1 of 2 is named and was never sent.');
  });
});

describe('local times', () => {
  test('by the clock of the place, with its distance from UTC', () => {
    const at = Date.UTC(2026, 1, 28, 23, 59, 30);
    expect(momentText(at, 60, 'en-GB')).toBe('1 March 2026, 00:59 (UTC+1)');
    expect(momentText(at, -210, 'en-US')).toBe('February 28, 2026, 8:29 pm (UTC−3:30)');
    expect(hourText(at, 0, 'en-GB', true)).toBe('23:59:30');
    expect(hourText(Date.UTC(2026, 0, 1, 12), 0, 'en-US')).toBe('12:00 pm');
    expect(hourText(Date.UTC(2026, 0, 1, 0), 0, 'en-US')).toBe('12:00 am');
    expect(spanText(at, at + 3_600_000, 0, 'en-GB')).toBe('from 28 February 2026, 23:59, to 1 March 2026, 00:59 (UTC)');
    expect(zoneText(345)).toBe('UTC+5:45');
    expect(() => dateWords('soon', 'en-GB')).toThrow(RangeError);
  });
});

test('each verdict has a shape of its own', () => {
  const paths = Object.values(verdictShapes).map(({ path }) => path);
  expect(new Set(paths).size).toBe(paths.length);
});

describe.each(examples)('the strip of %s', (_, record) => {
  const strip = receiptOf(record);

  test('a sentence, the verdict, the figures of the phase that decides; and that it is not the certificate', () => {
    const paper = paperOf(record);
    expect(strip.size).toBe('roll');
    expect(of(strip, 'verdict')).toEqual(of(paper, 'verdict'));
    expect(of(strip, 'say').map(({ text }) => text)).toContain(of(paper, 'say')[0].text);
    const shown = front(paper).flatMap((block) => (block.kind === 'figures' ? block.figures : []));
    for (const { figures } of of(strip, 'figures')) for (const figure of figures) expect(shown).toContainEqual(figure);
    expect(wordsOf(strip)).toContain('This strip is not the certificate');
  });

  test('its picture fits the roll', () => {
    for (const { drawing } of of(strip, 'drawing'))
      for (const mark of drawing.marks) {
        const xs = mark.do === 'line' || mark.do === 'area' ? mark.points.filter((__, index) => index % 2 === 0) : [mark.x];
        for (const x of xs) expect([x >= 0, x <= drawing.width]).toEqual([true, true]);
      }
  });
});
