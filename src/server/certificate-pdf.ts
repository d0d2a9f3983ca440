import { join } from 'node:path';
import { max, ticks } from 'd3-array';
import PDFDocument from 'pdfkit';
import QRCode from 'qrcode';
import { type HoldPhase, inPlanUnit, instrumentOf, instrumentsOf, type MeasurePhase, sightSentences, weatherOf } from '@/core/course';
import { canonical } from '@/core/exact';
import {
  boundaryStates,
  datedIn,
  heldSoFar,
  itemsOf,
  type Judgement,
  judge,
  type PhaseJudgement,
  pointsOf,
  said,
  sentenceOf,
  sightAsHeld,
  spanOf,
  tracesOf,
} from '@/core/judging';
import { roomOfHold, roomOfMeasure, timeText } from '@/core/limits';
import type { Plan } from '@/core/planning';
import { unitLabel } from '@/core/quantities';
import {
  type Attempt,
  attemptsOf,
  fingerprint,
  inSentence,
  meaningOf,
  nameOf,
  type RecordedTest,
  type TestRecord,
  verdictWords,
} from '@/core/record';
import { type AnyInstrument, calibrationText, noGauge, rigWords } from '@/core/sizing';

/** Builds the certificate's pages from the record alone, so that the same record always gives the same bytes. */

const ink = '#23282b';
const quiet = '#5d6468';
const rule = '#c9c2b4';
const left = 56;
const width = 483;
const bottom = 770;

type Pages = InstanceType<typeof PDFDocument>;

/** Where the full fonts lie: beside the installed packages. */
const fonts = (root: string) => join(root, 'node_modules', 'dejavu-fonts-ttf', 'ttf');

const when = (ms: number, offsetMinutes = 0): string =>
  `${new Date(ms + offsetMinutes * 60_000).toISOString().slice(0, 19).replace('T', ' ')}${offsetMinutes === 0 ? ' UTC' : ` (UTC${offsetMinutes > 0 ? '+' : '−'}${Math.abs(offsetMinutes / 60)})`}`;

/** The PDF, with the record attached. Without a seal every page says that it is a draft. */
export async function certificatePdf(record: TestRecord, root: string = process.cwd()): Promise<Buffer> {
  const issued = record.certificate?.issuedAt ?? attemptsOf(record).at(-1)?.events.at(-1)?.observedAt ?? 0;
  const pages = new PDFDocument({
    size: 'A4',
    margins: { top: 56, bottom: 40, left, right: 56 },
    bufferPages: true,
    pdfVersion: '1.7',
    info: {
      Title: `Certificate ${record.certificate?.number ?? '(draft)'}`,
      Author: record.firm?.name ?? '',
      CreationDate: new Date(issued),
      ModDate: new Date(issued),
    },
  });
  const chunks: Buffer[] = [];
  pages.on('data', (chunk: Buffer) => chunks.push(chunk));
  const done = new Promise<Buffer>((resolve, reject) => {
    pages.on('end', () => resolve(Buffer.concat(chunks)));
    pages.on('error', reject);
  });
  for (const [name, file] of [
    ['text', 'DejaVuSans.ttf'],
    ['bold', 'DejaVuSans-Bold.ttf'],
    ['mono', 'DejaVuSansMono.ttf'],
  ] as const)
    pages.registerFont(name, join(fonts(root), file));

  masthead(pages, record);
  const judged = record.tests.map((one) => {
    const last = one.attempts[one.attempts.length - 1];
    const judgement = last.judgement ?? judge(last.plan, last.events);
    heading(pages, record, one, judgement);
    for (const attempt of one.attempts) attemptSection(pages, attempt, one.attempts.length);
    limits(pages, last, judgement);
    particulars(pages, record, one, last);
    return judgement;
  });
  signatures(pages, record);
  await sealBox(pages, record);
  footers(
    pages,
    record,
    judged.some(({ simulated }) => simulated),
  );
  pages.file(Buffer.from(canonical(record)), {
    name: 'record.json',
    type: 'application/json',
    description: 'The open record of this test',
    creationDate: new Date(issued),
    modifiedDate: new Date(issued),
    relationship: 'Source',
  } as Parameters<Pages['file']>[1]);
  pages.end();
  return done;
}

function room(pages: Pages, height: number): void {
  if (pages.y + height > bottom) pages.addPage();
}

function title(pages: Pages, text: string): void {
  room(pages, 60);
  pages.moveDown(0.9).font('bold').fontSize(11).fillColor(ink).text(text, left, pages.y, { width });
  pages.moveDown(0.25);
}

function sentence(pages: Pages, text: string, colour = ink, size = 9): void {
  pages.font('text').fontSize(size);
  room(pages, pages.heightOfString(text, { width }) + 2);
  pages.fillColor(colour).text(text, left, pages.y, { width, lineGap: 1.5 });
}

/** A verdict mark: block shapes of our own, so that the word never depends on colour. */
function mark(pages: Pages, verdict: string, x: number, y: number, size: number): void {
  pages.save().lineWidth(1.6).strokeColor(ink).fillColor(ink);
  const half = size / 2;
  if (verdict === 'pass') pages.rect(x, y, size, size).fill();
  else if (verdict === 'pass with permitted drop')
    pages.polygon([x, y], [x + size, y], [x + size, y + half], [x + half, y + half], [x + half, y + size], [x, y + size]).fill();
  else if (verdict === 'fail') {
    pages.polygon([x, y], [x + size * 0.55, y], [x + size * 0.3, y + size], [x, y + size]).fill();
    pages.polygon([x + size * 0.75, y], [x + size, y], [x + size, y + size], [x + size * 0.5, y + size]).fill();
  } else if (verdict === 'invalid')
    pages
      .rect(x, y, size, size)
      .stroke()
      .moveTo(x - 2, y + size + 2)
      .lineTo(x + size + 2, y - 2)
      .stroke();
  else {
    pages.rect(x, y, size, size).stroke();
    for (let line = 1; line < 4; line += 1)
      pages
        .moveTo(x, y + (size * line) / 4)
        .lineTo(x + (size * line) / 4, y)
        .stroke();
  }
  pages.restore();
}

function masthead(pages: Pages, record: TestRecord): void {
  pages
    .font('text')
    .fontSize(9)
    .fillColor(quiet)
    .text(record.firm?.name ?? '', left, 50, { width });
  pages.font('bold').fontSize(17).fillColor(ink).text('Certificate of a tightness test', { width });
  const { certificate } = record;
  pages
    .font('mono')
    .fontSize(9)
    .fillColor(quiet)
    .text(certificate === undefined ? 'DRAFT, not sealed' : `No. ${certificate.number}   issued ${when(certificate.issuedAt)}`, { width });
  if (certificate?.corrects !== undefined)
    sentence(pages, `This certificate corrects No. ${certificate.corrects.number}: ${certificate.corrects.reason}`);
}

/** What one test came to, for whoever reads no further. */
function heading(pages: Pages, { site, people }: TestRecord, { system, details, attempts }: RecordedTest, judgement: Judgement): void {
  pages.moveDown(0.8);
  const y = pages.y;
  mark(pages, judgement.verdict, left + 3, y + 2, 26);
  pages
    .font('bold')
    .fontSize(15)
    .fillColor(ink)
    .text(verdictWords[judgement.verdict].title, left + 44, y, { width: width - 44 });
  pages
    .font('text')
    .fontSize(9.5)
    .text(meaningOf(attempts[attempts.length - 1].plan, judgement.verdict), left + 44, pages.y, { width: width - 44 });
  if (judgement.simulated) {
    pages.moveDown(0.5);
    pages
      .font('bold')
      .fontSize(10)
      .fillColor('#8a2b1d')
      .text(
        'SIMULATED: readings came from a simulated gauge. This is practice and proves nothing about a real installation.',
        left,
        pages.y,
        { width },
      );
  }
  pages.moveDown(0.6);
  sentence(
    pages,
    `Tested: ${system?.name ?? 'system not named'} at ${site?.name ?? 'site not named'}, ${site?.address ?? ''}${site?.occupier ? ` (occupier: ${site.occupier})` : ''}, by ${details === undefined ? 'an unnamed technician' : nameOf({ people }, details.technician)}.`,
  );
  // Whoever reads only the headline must not take the last attempt for the whole story.
  for (const { number, plan, events, judgement: earlier = judge(plan, events) } of attempts.slice(0, -1)) {
    if (earlier.verdict !== 'fail') continue;
    const why = earlier.reasons.filter(({ weight }) => weight === 'override' || weight === 'fail').map(sentenceOf)[0] ?? '';
    sentence(
      pages,
      `Attempt ${number} of this test failed. ${why} The verdict above is attempt ${attempts.at(-1)?.number}’s and covers only what that one tested.`,
      '#8a2b1d',
      9.5,
    );
  }
  title(pages, 'Why');
  const { plan } = attempts[attempts.length - 1];
  const reasons = said(plan, judgement);
  for (const reason of reasons.filter(({ weight }) => weight !== 'note')) {
    sentence(pages, reason.sentence);
    for (const line of reason.working) sentence(pages, `    ${line}`, quiet, 8);
  }
  const notes = reasons.filter(({ weight, code }) => weight === 'note' && code !== 'simulated');
  for (const note of notes) sentence(pages, `Noted: ${note.sentence}`, quiet, 8.5);
}

function attemptSection(pages: Pages, attempt: Attempt, count: number): void {
  const { plan, events } = attempt;
  const judgement = attempt.judgement ?? judge(plan, events);
  title(pages, count === 1 ? 'Readings and trace' : `Attempt ${attempt.number}: ${verdictWords[judgement.verdict].title}`);
  const offset = events[0]?.offsetMinutes ?? 0;
  // Each kind of limit reports itself, in the unit of its own instrument.
  for (const state of judgement.phases) {
    const spec = plan.phases.find(({ id }) => id === state.id);
    if (spec?.kind !== 'hold' && spec?.kind !== 'measure') continue;
    const { startAt, endAt } = spanOf(state);
    if (startAt === undefined) continue;
    const round = state.round > 1 ? ` (round ${state.round})` : '';
    sentence(
      pages,
      `${reportOf(plan, spec, state)}${round}; ${when(datedIn(events, startAt), offset)}${endAt === undefined ? '' : ` to ${when(datedIn(events, endAt), offset).slice(11)}`}.`,
      ink,
      8.5,
    );
  }
  trace(pages, attempt, judgement);
  const named: readonly { readonly label: string; readonly instrument: AnyInstrument }[] = [
    ...instrumentsOf(plan).map(({ role, instrument }) => ({ label: role === undefined ? 'Gauge' : 'Instrument', instrument })),
    ...weatherOf(plan),
  ];
  for (const { label, instrument } of named) {
    if (instrument.id === noGauge.id) continue;
    const unit = unitLabel(instrument.unit);
    const calibrated = instrument.calibration.needed ? calibrationText(instrument) : 'a column, rule or vessel, which needs no calibration';
    const rig = instrument.rigCheck === undefined ? '' : `; its rig ${rigWords(instrument.rigCheck)}`;
    sentence(
      pages,
      `${label}: ${instrument.name}${instrument.simulated ? ' (simulated)' : ''}, serial ${instrument.serial}, shows steps of ${instrument.readability} ${unit}, range ${instrument.rangeLow} to ${instrument.rangeHigh} ${unit}; ${calibrated}${rig}.`,
      quiet,
      8.5,
    );
  }
}

/** What a phase came to, in one line; of one that was not read to its end, how it stood. */
function reportOf(plan: Plan, spec: HoldPhase | MeasurePhase, state: PhaseJudgement): string {
  const held = heldSoFar(state);
  const came = 'came' in state ? state.came : undefined;
  if (spec.kind === 'measure') {
    const points = spec.points.flatMap(({ id, label }) => {
      const values = pointsOf(state).find((one) => one.id === id)?.values;
      return values === undefined
        ? []
        : [
            `${label}: ${spec.fields
              .flatMap(({ quantity, instrument }) => {
                const value = values[quantity];
                return value === undefined ? [] : [`${value} ${unitLabel(instrumentOf(plan, instrument).unit)}`];
              })
              .join(', ')}`,
          ];
    });
    const whole = came?.of === 'points' && Object.keys(came.data).length > 1 ? roomOfMeasure(spec.limit).reports(came.data) : spec.title;
    return [whole, ...points].join('; ');
  }
  const unit = unitLabel(instrumentOf(plan, spec.instrument).unit);
  if (came?.of === 'hold' && came.end !== undefined) return roomOfHold(spec.limit).reports(came.data);
  if (came?.of === 'hold' && spec.limit.kind === 'wait')
    return `${spec.title}: from ${came.start} ${unit}, settled ${timeText(spec.seconds)}`;
  return `${spec.title}: ${held?.start ?? ''} ${unit}, no end reading`;
}

function trace(pages: Pages, { plan, events }: Attempt, judgement: Judgement): void {
  const lines = tracesOf(plan, judgement, events, undefined, 0).map(({ phase, points: own }) => {
    const startAt = spanOf(judgement.phases.find(({ id }) => id === phase)).startAt ?? 0;
    return own.map(({ seconds, value }) => ({ at: startAt + seconds * 1000, value }));
  });
  const points = lines.flat().sort((a, b) => a.at - b.at);
  if (points.length < 2) return;
  room(pages, 130);
  const top = pages.y + 8;
  const height = 92;
  const from = points[0].at;
  const to = points[points.length - 1].at;
  const highest = Math.max(max(points, ({ value }) => value) ?? 0, Number(plan.highest)) * 1.05;
  const x = (at: number) => left + 28 + ((at - from) / Math.max(1, to - from)) * (width - 34);
  const y = (value: number) => top + height - (Math.max(0, value) / highest) * height;
  pages.save().lineWidth(0.5).strokeColor(rule);
  for (const tick of ticks(0, highest, 5)) {
    pages
      .moveTo(left + 28, y(tick))
      .lineTo(left + width - 6, y(tick))
      .stroke();
    pages
      .font('mono')
      .fontSize(7)
      .fillColor(quiet)
      .text(String(tick), left, y(tick) - 4, { width: 22, align: 'right', lineBreak: false });
  }
  pages.lineWidth(0.9).strokeColor(ink);
  for (const line of lines) {
    for (const [index, { at, value }] of line.entries()) {
      if (index === 0) pages.moveTo(x(at), y(value));
      else pages.lineTo(x(at), y(value));
    }
    if (line.length === 1) pages.circle(x(line[0].at), y(line[0].value), 1.5);
    pages.stroke();
  }
  for (const state of judgement.phases) {
    const spec = plan.phases.find(({ id }) => id === state.id);
    const phase = heldSoFar(state);
    if (spec?.kind !== 'hold' || spec.limit.kind !== 'no-fall' || phase === undefined) continue;
    // The floor that the gauge must not reach, drawn over the hold.
    const limit = Number(spec.limit.permitted ?? spec.limit.threshold);
    const floor = y(inPlanUnit(plan, Number(phase.start), spec) - limit);
    pages
      .lineWidth(0.8)
      .dash(3, { space: 2 })
      .strokeColor('#8a2b1d')
      .moveTo(x(phase.startAt), floor)
      .lineTo(x(phase.dueAt), floor)
      .stroke()
      .undash();
  }
  pages.restore();
  pages
    .font('text')
    .fontSize(7)
    .fillColor(quiet)
    .text(
      `${unitLabel(plan.unit)} against time; ${when(datedIn(events, from))} to ${when(datedIn(events, to))}; dashed: the floor of a hold`,
      left + 28,
      top + height + 4,
      {
        width: width - 28,
      },
    );
  pages.y = top + height + 18;
}

function limits(pages: Pages, { plan }: Attempt, judgement: Judgement): void {
  title(pages, 'Rules and limits');
  sentence(
    pages,
    `Procedure: ${plan.procedure.title}, ${inSentence(plan.procedure.school)}, version ${plan.procedure.version}. Medium: ${plan.medium}.${volumeWords(plan)}`,
  );
  for (const line of plan.derivation) sentence(pages, line);
  for (const line of sightSentences(sightAsHeld(plan, judgement), plan.sightSays)) sentence(pages, line);
  sentence(pages, plan.answerLabels.map(({ label, value }) => `${label}: ${value}`).join('. '), quiet, 8.5);
  title(pages, 'Not tested');
  for (const line of plan.notTested) sentence(pages, `${line}.`);
  for (const { label, how, beyond } of boundaryStates(plan, judgement.phases))
    sentence(pages, `Boundary: ${label}, ${how}. Beyond it: ${beyond.charAt(0).toLowerCase()}${beyond.slice(1)}.`, quiet, 8.5);
}

/** How many there are, and how many are named only: on the way for now, or for ever. */
function photosText({ photos = [], seal }: TestRecord): string {
  const absent = photos.filter(({ stored }) => stored === undefined).length;
  const [is, was] = absent === 1 ? ['is', 'was'] : ['are', 'were'];
  if (absent === 0) return `${photos.length}`;
  return `${photos.length}, of which ${absent} ${seal === undefined ? `${is} not here yet` : `${is} named and ${was} never sent`}`;
}

function particulars(pages: Pages, record: TestRecord, { details }: RecordedTest, { plan, events, judgement }: Attempt): void {
  title(pages, 'Particulars');
  const items = plan.phases.flatMap((phase) =>
    phase.kind !== 'check'
      ? []
      : phase.items.flatMap((item) => {
          const state = itemsOf(judgement?.phases.find(({ id }) => id === phase.id)).find(({ id }) => id === item.id);
          return state === undefined
            ? []
            : [
                `${item.text}: ${state.state === 'not-applicable' ? 'does not apply' : state.state}${state.text === undefined ? '' : ` (${state.text})`}`,
              ];
        }),
  );
  sentence(
    pages,
    `Job origin: ${details?.jobOrigin || 'not recorded'}. Visual inspection: ${details?.visualInspection ?? 'not done'}. Meter: ${details?.meterNumber || 'number not recorded'}, reading ${details?.meterReading || 'not recorded'}. Photographs: ${photosText(record)}.`,
    ink,
    8.5,
  );
  sentence(pages, `${items.join('. ')}.`, quiet, 8);
  for (const event of events) if (event.type === 'note') sentence(pages, `Note: ${event.text}`, quiet, 8);
  title(pages, 'Cautions');
  sentence(
    pages,
    'Local code, the maker’s instructions and licensed practice come first. This tool calculates and records; it does not replace a licensed person.',
    ink,
    8.5,
  );
  for (const text of Object.values(plan.cautions)) sentence(pages, text, quiet, 8);
}

function signatures(pages: Pages, { signatures: signed = [] }: TestRecord): void {
  room(pages, 120);
  title(pages, 'Signatures');
  const top = pages.y;
  for (const [index, role] of (['technician', 'customer'] as const).entries()) {
    const x = left + index * 250;
    const one = signed.find((candidate) => candidate.role === role);
    pages
      .save()
      .lineWidth(0.5)
      .strokeColor(rule)
      .moveTo(x, top + 58)
      .lineTo(x + 225, top + 58)
      .stroke();
    pages.lineWidth(1.1).strokeColor(ink);
    for (const stroke of one?.strokes ?? []) {
      for (let point = 0; point + 1 < stroke.length; point += 2) {
        const at: [number, number] = [
          x + Math.min(225, Math.max(0, stroke[point] / 45)),
          top + Math.min(58, Math.max(0, stroke[point + 1] / 45)),
        ];
        if (point === 0) pages.moveTo(...at);
        else pages.lineTo(...at);
      }
      pages.stroke();
    }
    pages.restore();
    pages
      .font('text')
      .fontSize(8)
      .fillColor(ink)
      .text(
        one === undefined
          ? `${role === 'technician' ? 'Technician' : 'Customer or witness'}: not signed`
          : `${role === 'technician' ? 'Technician' : 'Customer or witness'}: ${one.absent === undefined ? one.name : `not signed: ${one.absent}`}, ${when(one.signedAt)}`,
        x,
        top + 62,
        { width: 230 },
      );
  }
  pages.y = top + 86;
}

async function sealBox(pages: Pages, { seal, certificate }: TestRecord): Promise<void> {
  if (seal === undefined || certificate === undefined) return;
  room(pages, 120);
  title(pages, 'Seal');
  const top = pages.y;
  const code = QRCode.create(certificate.checkAddress, { errorCorrectionLevel: 'M' });
  const cell = 88 / code.modules.size;
  pages.save().fillColor('#000000');
  for (let row = 0; row < code.modules.size; row += 1)
    for (let column = 0; column < code.modules.size; column += 1)
      if (code.modules.get(row, column)) pages.rect(left + column * cell, top + row * cell, cell + 0.05, cell + 0.05);
  pages.fill().restore();
  pages
    .font('text')
    .fontSize(8.5)
    .fillColor(ink)
    .text('Anyone can check this certificate, without an account, at the address in the code:', left + 104, top, { width: width - 104 });
  pages
    .font('mono')
    .fontSize(7.5)
    .fillColor(quiet)
    .text(certificate.checkAddress, { width: width - 104 });
  pages
    .moveDown(0.4)
    .text(`Record   ${seal.hash}`, { width: width - 104 })
    .text(`Signer   ${fingerprint(seal.publicKey)}`, { width: width - 104 });
  pages
    .moveDown(0.4)
    .font('text')
    .fontSize(8)
    .text('The record is attached to this file. If these pages and the record differ, the record is what was sealed.', {
      width: width - 104,
    });
  pages.y = Math.max(pages.y, top + 96);
}

function footers(pages: Pages, record: TestRecord, simulated: boolean): void {
  const { start, count } = pages.bufferedPageRange();
  for (let page = start; page < start + count; page += 1) {
    pages.switchToPage(page);
    pages.page.margins.bottom = 0;
    const text = `${record.certificate === undefined ? 'DRAFT, not sealed' : `Certificate ${record.certificate.number}`}${simulated ? '   SIMULATED' : ''}   page ${page - start + 1} of ${count}`;
    pages.font('text').fontSize(7.5).fillColor(quiet).text(text, left, 805, { width, align: 'right', lineBreak: false });
  }
}

/** The volume with where it comes from; nothing for a test that needs none. */
function volumeWords({ volume, pipes }: Plan): string {
  if (volume.how === 'answers') return '';
  const from = volume.how === 'schedule' ? `from the pipe schedule: ${pipes.join('; ')}` : 'as stated';
  const range = volume.lowest === undefined ? '' : `, estimated between ${volume.lowest} and ${volume.litres}`;
  return ` Volume ${volume.litres} L (${from}${range}).`;
}
