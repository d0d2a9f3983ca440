'use client';

import { useRouter } from 'next/navigation';
import { Disclosure } from '@/ui/disclosure';
import { PostForm } from '@/ui/post-form';
import { dayText } from '@/ui/when';

export interface RuleVersion {
  readonly figure: string;
  readonly value: string;
  readonly reference: string;
  readonly version: number;
  readonly lifted: boolean;
  readonly setBy: string;
  readonly setAt: string;
}

/** A figure's house rule: its versions, and for supervisors setting and lifting it. */
export function RuleForm({
  procedure,
  figure,
  standing,
  history,
  mayEdit,
}: {
  readonly procedure: string;
  readonly figure: {
    readonly id: string;
    readonly label: string;
    readonly value: string;
    readonly unit: string;
    readonly stricter: 'lower' | 'higher';
  };
  /** The rule's value, where one holds. */
  readonly standing?: string;
  readonly history: readonly RuleVersion[];
  readonly mayEdit: boolean;
}) {
  const router = useRouter();
  const past = standing === undefined ? history : history.slice(1);
  if (!mayEdit && history.length === 0) return null;
  const summary = mayEdit ? (standing === undefined ? 'Set one' : 'Change or lift') : 'Versions';
  return (
    <Disclosure
      className="text-sm"
      look="underline"
      title={
        <>
          {summary}
          <span className="sr-only"> for {figure.label}</span>
        </>
      }
    >
      <div className="mt-2 max-w-sm space-y-4 pb-2">
        {history.length > 0 && (
          <ul className="text-quiet">
            {history.map(({ version, value, reference, lifted, setBy, setAt }) => (
              <li key={version}>
                Version {version}: {lifted ? 'lifted' : `${value} ${figure.unit}`} ({reference}), {setBy}, {dayText(Date.parse(setAt))}
              </li>
            ))}
          </ul>
        )}
        {mayEdit && (
          <PostForm
            key={`set-${past.length}-${standing ?? ''}`}
            route="POST /api/rules"
            submit="Set the house rule"
            done={() => router.refresh()}
            extra={{ procedure, figure: figure.id }}
            fields={[
              {
                name: 'value',
                label: `Figure, ${figure.unit}`,
                help: `Only ${figure.stricter} than the procedure’s ${figure.value} ${figure.unit}.`,
              },
              { name: 'reference', label: 'Code or reason' },
            ]}
          />
        )}
        {mayEdit && standing !== undefined && (
          <PostForm
            route="POST /api/rules/lift"
            submit="Lift it"
            done={() => router.refresh()}
            extra={{ procedure, figure: figure.id, value: standing }}
            fields={[{ name: 'reference', label: 'Why it is lifted' }]}
          />
        )}
      </div>
    </Disclosure>
  );
}
