import type { Variant } from '@/core/planning';
import type { Procedure } from '@/core/procedures';
import { inSentence, verdictWords } from '@/core/record';
import type { EarlierPlan, GroundSystem } from '@/device/ground';
import { Choice } from '@/ui/choice';
import { Field } from '@/ui/field';
import { type Start, startOf } from './use-draft';

/** Which procedure the system is tested by, the firm's own among them, and which earlier plan it starts from. */
export function ProcedureChoice({
  procedure,
  procedures,
  own,
  variantId,
  choose,
  system,
  systems,
  earlier,
  copy,
}: {
  readonly procedure: Procedure;
  readonly procedures: readonly Procedure[];
  readonly own: readonly Variant[];
  readonly variantId: string;
  readonly choose: (procedureId: string, variantId: string) => void;
  readonly system: GroundSystem;
  readonly systems: readonly GroundSystem[];
  readonly earlier: readonly EarlierPlan[];
  readonly copy: (from: Start) => void;
}) {
  const variant = own.find(({ id }) => id === variantId);
  const variants = own.filter(({ base }) => procedures.some(({ id }) => id === base));
  // Those of this system first; a plan of another is copied where the work is alike.
  const plans = earlier
    .filter((plan) => plan.procedure === procedure.id)
    .sort((a, b) => Number(b.systemId === system.id) - Number(a.systemId === system.id))
    .slice(0, 30);
  const named = ({ systemId, on, verdict }: EarlierPlan): string => {
    const place = systems.find(({ id }) => id === systemId);
    return `${on}, ${systemId === system.id ? 'this system' : `${place?.name ?? 'another system'}, ${place?.site.name ?? ''}`}: ${inSentence(verdictWords[verdict].title)}`;
  };
  return (
    <>
      {procedures.length + variants.length > 1 && (
        <Field
          id="variantId"
          label="Procedure"
          group
          help={
            variant === undefined ? procedure.purpose : `Version ${variant.version}, ${variant.reference}; a copy of ${procedure.title}.`
          }
        >
          <Choice
            id="variantId"
            labelledBy="variantId-label"
            shortcut="p"
            value={variantId === '' ? procedure.id : variantId}
            change={(value) => {
              const chosen = variants.find(({ id }) => id === value);
              choose(chosen?.base ?? value, chosen?.id ?? '');
            }}
            options={[
              ...procedures.map(({ id, title, school }) => ({ value: id, label: `${title}, ${inSentence(school)}` })),
              ...variants.map(({ id, title }) => ({ value: id, label: title })),
            ]}
          />
        </Field>
      )}
      {plans.length > 0 && (
        <>
          <h3 className="mt-3 text-sm text-quiet">Copy the plan of an earlier test</h3>
          <ul className="max-h-64 divide-y divide-line overflow-y-auto border-y border-line">
            {plans.map((plan) => (
              <li key={plan.test}>
                <button
                  type="button"
                  className="min-h-11 w-full px-2 text-left hover:bg-sunken"
                  onClick={() => copy(startOf(procedure, plan))}
                >
                  {named(plan)}
                </button>
              </li>
            ))}
          </ul>
        </>
      )}
    </>
  );
}
