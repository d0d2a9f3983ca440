import type { ReactNode } from 'react';
import type { TestVerdict } from '@/core/course';
import { Page } from '@/features/frame/page';
import { link, subheading } from '@/ui/classes';
import { Notice } from '@/ui/notice';
import { Picture } from '@/ui/picture';
import { VerdictMark } from '@/ui/verdict-mark';
import { Sealed, type SealedProps } from './sealed';
import { Unsealed, type UnsealedProps } from './unsealed';

interface Props {
  readonly runId: string;
  readonly site: string;
  readonly system: string;
  readonly verdict: TestVerdict;
  /** Those that are here, each with what it is evidence of. */
  readonly photographs: readonly { readonly hash: string; readonly label: string }[];
  readonly lateEvents: number;
  readonly lateAttempts: number;
  readonly unsealed: UnsealedProps;
  readonly sealed?: SealedProps;
  /** The paper itself, as it is or would be. */
  readonly children: ReactNode;
}

/** Beside the paper: what is still missing, the signatures, the seal, and what can be downloaded. */
export function CertificateScreen(props: Props) {
  const { runId, site, system, verdict, sealed, unsealed, photographs, lateEvents, lateAttempts, children } = props;
  return (
    <Page
      width="whole"
      trail={
        <a href="/certificates" className="underline">
          Certificates
        </a>
      }
      title={sealed === undefined ? 'Certificate, not sealed yet' : `Certificate ${sealed.number}`}
      line={`${system}, ${site}`}
    >
      <div className="grid gap-8 xl:grid-cols-[22rem_minmax(0,1fr)]">
        <div className="space-y-6">
          <p>
            <VerdictMark verdict={verdict} />{' '}
            <a href={`/field?run=${runId}&view=verdict`} className={`${link} ml-2 text-sm`}>
              reasons and trace
            </a>
          </p>
          {sealed === undefined ? <Unsealed {...unsealed} /> : <Sealed {...sealed} />}
          {photographs.length > 0 && (
            <section aria-label="Photographs">
              <h2 className={subheading}>Photographs</h2>
              <ul className="mt-1 flex flex-wrap gap-3">
                {photographs.map(({ hash, label }) => (
                  <li key={`${hash} ${label}`}>
                    <Picture address={`/api/photos/${hash}`} label={label} />
                  </li>
                ))}
              </ul>
            </section>
          )}
          {lateEvents + lateAttempts > 0 && (
            <Notice tone="caution">
              After sealing there arrived {lateEvents} event{lateEvents === 1 ? '' : 's'}
              {lateAttempts > 0 && ` and ${lateAttempts} whole attempt${lateAttempts === 1 ? '' : 's'}`}. They are kept and flagged, and
              were not judged. To have them judged, plan a new test of the system.
            </Notice>
          )}
        </div>
        <section aria-label="The paper" className="min-w-0">
          {children}
        </section>
      </div>
    </Page>
  );
}
