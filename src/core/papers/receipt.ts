import { meaningOf, type TestRecord, verdictWords } from '../record';
import { judgedTest, leadOf, receiptFigures, receiptPicture } from './answer';
import { type Block, heading, layoutVersion, type Paper, ranked, say } from './blocks';
import { momentText } from './times';

/** Printable width of a 58 mm roll, points. */
export const receiptWidth = 136;

/** A record as a strip for the van's printer: a sentence, the figures, the trace and the code; all else stands on the paper itself. */
export function receiptOf(record: TestRecord): Paper {
  const { certificate, firm } = record;
  const locale = firm?.locale ?? 'en-GB';
  const judged = record.tests.map(judgedTest);
  const simulated = judged.some(({ judgement }) => judgement.simulated);
  const number = certificate === undefined ? 'Draft, not sealed' : `No. ${certificate.number}`;
  return {
    layout: layoutVersion,
    language: 'en',
    size: 'roll',
    title: `Receipt ${certificate?.number ?? '(draft)'}`,
    at: certificate?.issuedAt ?? judged[0]?.attempt.events.at(-1)?.observedAt ?? 0,
    firm: { name: firm?.name ?? '', lines: [] },
    foot: simulated ? 'SIMULATED' : '',
    blocks: ranked([
      say(
        certificate === undefined ? number : `${number}, ${momentText(certificate.issuedAt, certificate.offsetMinutes, locale)}`,
        'quiet',
      ),
      ...(simulated ? [say('SIMULATED: practice, proves nothing about a real installation.', 'stop')] : []),
      ...judged.flatMap((one, index): readonly Block[] => {
        const picture = receiptPicture(one, locale, receiptWidth);
        return [
          ...(judged.length > 1 ? [heading(3, `${index + 1} of ${judged.length}`)] : []),
          say(leadOf({ record, locale }, one, true)),
          {
            kind: 'verdict',
            verdict: one.judgement.verdict,
            title: verdictWords[one.judgement.verdict].title,
            meaning: meaningOf(one.plan, one.judgement.verdict),
          },
          { kind: 'figures', figures: receiptFigures(one) },
          ...(picture === undefined ? [] : [{ kind: 'drawing' as const, ...picture }]),
        ];
      }),
      say('This strip is not the certificate: that has what was not tested, the rules, the instruments and the signatures.', 'quiet'),
      ...(certificate === undefined ? [] : [{ kind: 'seal' as const, address: certificate.checkAddress, lines: [] }]),
    ]),
  };
}
