import { type Part, type SeenPart, sightWords, untold } from '@/core/course';
import { termWords } from '@/core/limits';
import { unitLabel } from '@/core/quantities';
import { Disclosure } from '@/ui/disclosure';

const shadeOf: Readonly<Record<Part['terms'][number]['what'], string>> = {
  limit: 'bg-action',
  step: 'bg-quiet',
  temperature: 'bg-caution',
  barometer: 'bg-line',
  'let-by': 'bg-ink',
  pressures: 'bg-caution',
  vessel: 'bg-quiet',
};

/** What a test can see, in its two figures, with what they stand on: part by part, the one that is judged first on top. */
export function SightFigures({
  parts,
  says,
  large = false,
}: {
  readonly parts: readonly SeenPart[];
  readonly says?: string;
  readonly large?: boolean;
}) {
  return (
    <div className="space-y-3">
      {parts.map((part, index) =>
        part.told === false ? (
          <section key={`${part.phase} ${part.what}`} aria-label={`What it can see in ${part.what}`} data-testid="sight">
            <h3 className="font-medium first-letter:uppercase">{part.what}</h3>
            <p className="first-letter:uppercase">{untold}.</p>
          </section>
        ) : (
          <PartFigures
            key={`${part.phase} ${part.what}`}
            part={part}
            named={parts.length > 1}
            large={large}
            alike={index > 0 && parts[index - 1].told !== false && sightWords(parts[index - 1]).assuming === sightWords(part).assuming}
          />
        ),
      )}
      {says !== undefined && says !== '' && <p className="text-[0.95rem]">{says}</p>}
    </div>
  );
}

function PartFigures({
  part,
  named,
  large,
  alike,
}: {
  readonly part: Part;
  readonly named: boolean;
  readonly large: boolean;
  /** It takes the same for granted as the part above it. */
  readonly alike: boolean;
}) {
  const { alone, sure, terms, unit, working, what } = part;
  const words = sightWords(part);
  const big = large ? 'text-2xl' : 'text-xl';
  return (
    <section aria-label={`What it can see in ${what}`} data-testid="sight">
      {named && <h3 className="font-medium first-letter:uppercase">{what}</h3>}
      <dl className="flex flex-wrap gap-x-8 gap-y-1">
        {sure !== undefined && (
          <div>
            <dt className="text-sm text-quiet">Sure of leaks above</dt>
            <dd className={`figures font-semibold ${big}`}>
              {sure} <span className="text-base">{unitLabel(unit)}</span>
            </dd>
          </div>
        )}
        {alone !== undefined && (
          <div>
            <dt className="text-sm text-quiet">If nothing else moves, from</dt>
            <dd className={`figures text-quiet ${big}`}>
              {alone} <span className="text-base">{unitLabel(unit)}</span>
            </dd>
          </div>
        )}
      </dl>
      {sure === undefined && <p className="font-medium text-caution first-letter:uppercase">{words.sure}.</p>}
      <Terms terms={terms} />
      {!alike && words.assuming !== '' && <p className="mt-1 text-sm">{words.assuming}</p>}
      {!alike && words.outside !== '' && <p className="text-sm text-quiet">{words.outside}</p>}
      {alike && <p className="text-sm text-quiet">Taking the same for granted.</p>}
      <Disclosure className="mt-1" look="py-1 text-sm text-quiet underline" title="The sum">
        {working.map((line) => (
          <p key={line} className="figures text-xs leading-relaxed text-quiet">
            {line}
          </p>
        ))}
      </Disclosure>
    </section>
  );
}

/** The movement that must be overcome, in its parts, each as wide as it is large. */
function Terms({ terms }: Pick<Part, 'terms'>) {
  if (terms.length < 2) return null;
  const all = terms.reduce((sum, { amount }) => sum + Number(amount), 0);
  return (
    <div className="mt-1">
      <div className="flex h-2.5 w-full gap-px" aria-hidden>
        {terms.map(({ what, amount }) => (
          <span key={what} className={`${shadeOf[what]} h-full`} style={{ width: `${(100 * Number(amount)) / all}%` }} />
        ))}
      </div>
      <ul className="mt-0.5 flex flex-wrap gap-x-3 text-xs">
        {terms.map(({ what, amount, unit }) => (
          <li key={what} className="flex items-center gap-1">
            <span className={`${shadeOf[what]} inline-block size-2.5`} aria-hidden />
            {termWords[what]} <span className="figures">{`${Number(amount)} ${unitLabel(unit)}`}</span>
          </li>
        ))}
      </ul>
    </div>
  );
}
