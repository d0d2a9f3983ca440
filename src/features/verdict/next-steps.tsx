import { isSearched } from '@/core/locating';
import type { OpenRun } from '@/device/use-run';
import type { PlanFrom } from '@/features/run/go-on';
import { button, quietButton, subheading } from '@/ui/classes';
import { KeyHint } from '@/ui/key-hint';

interface Step {
  readonly label: string;
  /** What most would do next. */
  readonly first?: boolean;
  readonly disabled?: boolean;
  readonly go: (() => unknown) | { readonly address: string };
}

export function stepsOf(open: OpenRun, goRun: () => void, goPlan: (from: PlanFrom) => void, goLocate: () => void): readonly Step[] {
  const { run, test, judgement, hasPen } = open;
  const finished = judgement.verdict !== 'in progress';
  return [
    ...(finished
      ? []
      : [{ label: judgement.provisional === 'in progress' ? 'Back to the course' : 'Finish the closing steps', first: true, go: goRun }]),
    ...(isSearched(judgement) ? [{ label: 'Find the leak', first: finished, go: goLocate }] : []),
    ...judgement.next.flatMap((step): Step[] => {
      const { label } = step;
      switch (step.code) {
        case 'restart':
          return [{ label, disabled: !hasPen, go: () => open.restart(step.phase).then(goRun) }];
        case 'new-attempt':
          return [{ label, disabled: test.sealed !== undefined, go: () => goPlan({}) }];
        case 'repeat-with':
          return [{ label, disabled: test.sealed !== undefined, go: () => goPlan({ answers: step.answers }) }];
        case 'swap-gauge':
          return [{ label, disabled: test.sealed !== undefined, go: () => goPlan({ avoid: run.plan.gauge.id }) }];
        case 'certificate':
          return [{ label, first: true, go: { address: `/certificates/test/${test.id}` } }];
        default:
          return [];
      }
    }),
  ];
}

/** What can be done now, each a button and a key: the number of its place. */
export function NextSteps({
  open,
  goRun,
  goPlan,
  goLocate,
}: {
  readonly open: OpenRun;
  readonly goRun: () => void;
  readonly goPlan: (from: PlanFrom) => void;
  readonly goLocate: () => void;
}) {
  return (
    <section className="mt-6" aria-label="Next">
      <h2 className={subheading}>Next</h2>
      <div className="mt-2 flex flex-wrap gap-3">
        {stepsOf(open, goRun, goPlan, goLocate).map(({ label, first = false, disabled = false, go }, index) => {
          const look = `${first ? button : quietButton} min-h-14`;
          const key = String(index + 1);
          return typeof go === 'function' ? (
            <button key={label} type="button" className={look} disabled={disabled} onClick={go} aria-keyshortcuts={key}>
              {label} <KeyHint of={key} plain={first} />
            </button>
          ) : (
            <a key={label} className={look} href={go.address} aria-keyshortcuts={key}>
              {label} <KeyHint of={key} plain />
            </a>
          );
        })}
      </div>
    </section>
  );
}
