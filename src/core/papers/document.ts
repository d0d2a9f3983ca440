import { fingerprint, meaningOf, type Signature, signerRoles, type TestRecord, verdictOver, verdictWords } from '../record';
import { answerOf, type Frame, type Judged, judgedTest, offsetOf } from './answer';
import { type Block, column, heading, layoutVersion, type Paper, type PaperPhoto, ranked, type Signed, say, table } from './blocks';
import { cautionsOf, detailsOf } from './details';
import { momentText } from './times';

const localeOf = ({ firm }: TestRecord) => firm?.locale ?? 'en-GB';

/** Minutes east of UTC in which the paper's own moments are given: the firm's when it was issued, else where the test was made. */
function offsetOfPaper({ certificate }: TestRecord, judged: readonly Judged[]): number {
  const [first] = judged;
  return certificate?.offsetMinutes ?? (first === undefined ? 0 : offsetOf(first.attempt));
}

/**
 * A record as the paper that a customer reads: one page that answers, for each test one, and then what stands behind it. A pure
 * function of the record; the same record gives the same blocks on every machine.
 */
export function paperOf(record: TestRecord): Paper {
  const judged = record.tests.map(judgedTest);
  const offset = offsetOfPaper(record, judged);
  const locale = localeOf(record);
  const frame: Frame = { record, locale };
  const { certificate, firm } = record;
  const last = judged[judged.length - 1]?.attempt.events.at(-1)?.observedAt ?? 0;
  const name = judged.length > 1 ? 'Report of a visit' : 'Certificate of a tightness test';
  const simulated = judged.some(({ judgement }) => judgement.simulated);
  const number = certificate === undefined ? 'Draft, not sealed' : `No. ${certificate.number}`;
  const under = certificate === undefined ? number : `${number}, issued ${momentText(certificate.issuedAt, offset, locale)}`;
  return {
    layout: layoutVersion,
    language: 'en',
    size: firm?.sheet ?? 'A4',
    title: certificate === undefined ? `${name} (draft)` : `${name} ${certificate.number}`,
    at: certificate?.issuedAt ?? last,
    firm: {
      name: firm?.name ?? '',
      lines: [firm?.address ?? '', (firm?.registration ?? '') === '' ? '' : `Registration ${firm?.registration}`].filter(
        (text) => text !== '',
      ),
      ...(firm?.logo === undefined ? {} : { logo: firm.logo }),
    },
    foot: `${number}${simulated ? '   SIMULATED' : ''}`,
    blocks: ranked([
      { kind: 'title', text: name, under },
      ...(certificate?.corrects === undefined
        ? []
        : [say(`This stands in place of No. ${certificate.corrects.number}: ${certificate.corrects.reason}`, 'caution')]),
      ...(judged.length > 1 ? several(frame, judged) : judged.flatMap((one) => answerOf(frame, one, true))),
      ...judged.flatMap((one, index): readonly Block[] => [
        { kind: 'page' },
        ...(judged.length > 1 ? [heading(2, `Test ${index + 1}: what stands behind it`)] : []),
        ...detailsOf(frame, one),
      ]),
      ...photographs(record, judged, locale),
      ...conditions(record, judged),
      ...signatures(record, offset, locale),
      ...seal(record),
    ]),
  };
}

/** A visit: what each test came to in one table, then each with its own page. */
function several(frame: Frame, judged: readonly Judged[]): readonly Block[] {
  const { site } = frame.record;
  const place = [site?.name, site?.address].filter((text) => (text ?? '') !== '').join(', ');
  const worst = verdictOver(judged.map(({ judgement }) => judgement.verdict));
  return [
    say(
      `${judged.length} systems${place === '' ? '' : ` at ${place}`} were tested${(site?.occupier ?? '') === '' ? '' : ` for ${site?.occupier}`}. Each has its own judgement: one that passed says nothing of another.`,
      'lead',
    ),
    ...table(
      'What each test came to',
      [column('System', 3), column('Test', 3), column('Verdict', 2), column('What it means', 5)],
      judged.map(({ test, plan, judgement }) => [
        test.system?.name ?? 'not named',
        plan.procedure.title,
        verdictWords[judgement.verdict].title,
        meaningOf(plan, judgement.verdict),
      ]),
    ),
    ...(worst === 'pass' || worst === 'pass with permitted drop'
      ? []
      : [say(`Read the one that did not pass first: at least one test here is “${verdictWords[worst].title.toLowerCase()}”.`, 'caution')]),
    ...judged.flatMap((one, index): readonly Block[] => [
      { kind: 'page' },
      heading(2, `Test ${index + 1}: ${one.test.system?.name ?? one.plan.procedure.title}`),
      ...answerOf(frame, one, false),
    ]),
  ];
}

/** The photographs that are here, each with what it is evidence of; those that were named and never sent are said. */
function photographs(record: TestRecord, judged: readonly Judged[], locale: Frame['locale']): readonly Block[] {
  const { photos = [], seal: sealed } = record;
  if (photos.length === 0) return [];
  const found = judged.flatMap(({ test }) =>
    test.attempts.flatMap(({ run, number, plan, events }) =>
      events.flatMap((event): readonly PaperPhoto[] => {
        if (event.type !== 'photo') return [];
        const kept = photos.find((one) => one.run === run && one.hash === event.hash);
        if (kept === undefined) return [];
        const slot = plan.evidence?.find(({ id }) => id === event.slot)?.label;
        const label = [slot ?? 'Photograph', ...(event.text === '' ? [] : [event.text])].join(': ');
        return [
          {
            ...(kept.copy === undefined ? {} : { copy: kept.copy }),
            label: `${label}${test.attempts.length > 1 ? `, attempt ${number}` : ''}`,
            taken: momentText(event.takenAt, event.offsetMinutes, locale),
          },
        ];
      }),
    ),
  );
  const absent = photos.filter(({ stored }) => stored === undefined).length;
  return [
    heading(2, 'Photographs'),
    ...(absent === 0
      ? []
      : [
          say(
            sealed === undefined
              ? `${absent} of ${photos.length} ${absent === 1 ? 'is' : 'are'} not here yet.`
              : `${absent} of ${photos.length} ${absent === 1 ? 'is' : 'are'} named and ${absent === 1 ? 'was' : 'were'} never sent.`,
            'caution',
          ),
        ]),
    { kind: 'photographs', photographs: found },
  ];
}

function conditions({ firm }: TestRecord, judged: readonly Judged[]): readonly Block[] {
  const numbers = [
    (firm?.emergency ?? '') === '' ? '' : `In an emergency: ${firm?.emergency}.`,
    (firm?.supplier ?? '') === '' ? '' : `The supplier: ${firm?.supplier}.`,
  ].filter((text) => text !== '');
  return [
    heading(2, 'Conditions and cautions'),
    say(
      'Local code, the maker’s instructions and licensed practice come first. This tool calculates and records; it does not replace a licensed person.',
    ),
    ...(numbers.length === 0 ? [] : [say(numbers.join(' '))]),
    { kind: 'list', items: cautionsOf(judged) },
  ];
}

const roleNames: Readonly<Record<Signature['role'], string>> = {
  technician: 'Technician',
  customer: 'Customer or witness',
  supervisor: 'Supervisor',
};

/** Each role once: who signed for all of it signed once, however many judgements that binds. */
function signatures(record: TestRecord, offset: number, locale: Frame['locale']): readonly Block[] {
  const { signatures: signed = [], people = [] } = record;
  // Whoever signs as technician need not be the one who tested: a licence stands beside its own name only.
  const licenceOf = (name: string): string => {
    const named = people.filter((one) => one.name === name);
    return named.length === 1 ? (named[0].licence ?? '') : '';
  };
  return [
    heading(2, 'Signatures'),
    {
      kind: 'signatures',
      signatures: signerRoles.flatMap((role): readonly Signed[] => {
        const one = signed.findLast((candidate) => candidate.role === role);
        if (one === undefined) return role === 'supervisor' ? [] : [{ role: roleNames[role], said: 'not signed', strokes: [] }];
        const when = momentText(one.signedAt, offset, locale);
        const licence = role === 'technician' ? licenceOf(one.name) : '';
        const who = `${one.name}${licence === '' ? '' : `, licence ${licence}`}`;
        return [
          {
            role: roleNames[role],
            said:
              one.absent === undefined
                ? `${who}, ${when}${one.remote === true ? ', by private link' : ''}`
                : `${one.refused === true ? `${one.name} would not sign` : 'nobody signed'}: ${one.absent}; ${when}`,
            strokes: one.absent === undefined ? one.strokes : [],
          },
        ];
      }),
    },
  ];
}

function seal({ seal: sealed, certificate }: TestRecord): readonly Block[] {
  if (sealed === undefined || certificate === undefined) return [];
  return [
    heading(2, 'Seal'),
    say(
      'Anyone can check this paper without an account: at the address in the code, or by dropping this file there. The record is attached to this file; if these pages and the record differ, the record is what was sealed.',
    ),
    {
      kind: 'seal',
      address: certificate.checkAddress,
      lines: [
        { label: 'Record', value: sealed.hash },
        { label: 'Signer', value: fingerprint(sealed.publicKey) },
        { label: 'Layout', value: certificate.layout },
      ],
    },
  ];
}
