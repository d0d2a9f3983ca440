'use client';

import { useCallback, useMemo, useState } from 'react';
import { type Worked, workedOf } from '@/core/library';
import { exampleInput, type HouseRule, type PlanResult, planTest, waysToSharpen } from '@/core/planning';
import { isAsked, procedureById } from '@/core/procedures';
import { unitLabel } from '@/core/quantities';
import { DetectionCurve } from '@/features/sight/detection-curve';
import { usePart } from '@/features/sight/part-choice';
import { ProvedRuns } from '@/features/sight/proved-runs';
import { SightFigures } from '@/features/sight/sight-figures';
import { Button } from '@/ui/button';
import { input, subheading } from '@/ui/classes';
import { Disclosure } from '@/ui/disclosure';
import { Field } from '@/ui/field';
import { Notice } from '@/ui/notice';
import { Question } from '@/ui/question';
import { CourseDrawing } from './course-drawing';

const nothingSeen = { sight: [] };

/** The procedure worked out for an example that can be changed: its course, its limit, and what it then can see. */
export function WorkedExample({
  procedureId,
  title,
  rules,
  on,
  initial,
}: {
  readonly procedureId: string;
  readonly title: string;
  /** House rules on this procedure, as the page's own working took them. */
  readonly rules: readonly HouseRule[];
  readonly on: string;
  readonly initial: Worked;
}) {
  const procedure = procedureById(procedureId);
  const example = useMemo(() => (procedure === undefined ? undefined : exampleInput(procedure, on)), [procedure, on]);
  const [changed, setChanged] = useState<{ readonly answers: Readonly<Record<string, string>>; readonly pipes: string } | undefined>();
  const answer = useCallback(
    (id: string, value: string) =>
      setChanged((last) => ({
        pipes: last?.pipes ?? example?.pipes ?? '',
        answers: { ...(last?.answers ?? example?.answers), [id]: value },
      })),
    [example],
  );
  const answers = changed?.answers ?? example?.answers ?? {};
  const pipes = changed?.pipes ?? example?.pipes ?? '';
  const whole = useMemo(
    () => (example === undefined ? undefined : { ...example, ...changed, houseRules: rules }),
    [changed, example, rules],
  );
  const result = useMemo<PlanResult | undefined>(() => (whole === undefined ? undefined : planTest(whole)), [whole]);
  const shown = changed !== undefined && result?.ok === true ? workedOf(result.value) : initial;
  const { part, choice } = usePart(result?.ok === true ? result.value.plan : nothingSeen);
  const others = useMemo(
    () => (whole === undefined || result?.ok !== true ? [] : waysToSharpen(whole, result.value.plan, [], part)),
    [whole, result, part],
  );
  const problems = result?.ok === false ? result.problems : [];
  const of = (field: string) => problems.find((problem) => problem.field === field);
  if (procedure === undefined || example === undefined) return null;
  const asked = procedure.parameters.filter((parameter) => isAsked(procedure, parameter, answers));
  const placed = new Set([...asked.map(({ id }) => id), ...(procedure.volumeFrom === 'pipes' ? ['size', 'length', 'volume'] : [])]);
  return (
    <section aria-label="Course">
      <h2 className={subheading}>The course</h2>
      <p className="mb-2 text-sm text-quiet">
        As it goes on a sound system, in the worked example{changed === undefined ? '' : ' as you changed it'}.
      </p>
      {problems.length > 0 && (
        <div className="mb-2 space-y-2" role="alert">
          {problems
            .filter(({ field }) => field === undefined || !placed.has(field))
            .map(({ code, message }) => (
              <Notice key={code + message} tone="stop">
                {message}
              </Notice>
            ))}
          <p className="text-sm font-medium text-caution">
            This cannot be planned; what it says is beside the question below. The picture shows the example as it was.
          </p>
        </div>
      )}
      <CourseDrawing course={shown.course} title={title} />
      <div className="mt-5 grid gap-x-10 gap-y-6 lg:grid-cols-2">
        <Disclosure className="min-w-0" look="font-medium underline" title="Change the example">
          <div className="mt-3 space-y-4">
            <p className="text-sm text-quiet">
              On a gauge in steps of {example.gauge.readability} {unitLabel(example.gauge.unit)}. Nothing here is kept; a test is planned
              from its site.
            </p>
            {asked.map((parameter) => (
              <Question
                key={parameter.id}
                parameter={parameter}
                value={answers[parameter.id] ?? ''}
                answer={answer}
                problem={of(parameter.id)}
              />
            ))}
            {procedure.volumeFrom === 'pipes' && (
              <Field
                id="example-pipes"
                label="Pipe schedule"
                help="A line each: size, material, length. 22cu 6.5 · 1sch40 40ft · 16x2pex 8"
                problem={of('size') ?? of('length') ?? of('volume') ?? problems.find(({ code }) => code.startsWith('pipe-line'))}
              >
                <textarea
                  id="example-pipes"
                  rows={Math.max(2, pipes.split('\n').length + 1)}
                  className={`${input} figures`}
                  value={pipes}
                  onChange={(event) => setChanged({ answers, pipes: event.target.value })}
                  spellCheck={false}
                />
              </Field>
            )}
            {changed !== undefined && (
              <Button tone="quiet" onClick={() => setChanged(undefined)}>
                As it was
              </Button>
            )}
          </div>
        </Disclosure>
        <div className="min-w-0">
          <h3 className="font-medium">Where the limit comes from</h3>
          <ul className="mt-1 space-y-1">
            {shown.derivation.map((text) => (
              <li key={text}>{text}</li>
            ))}
          </ul>
          {(shown.sight.length > 0 || shown.sightSays !== '') && (
            <>
              <h3 className="mt-3 font-medium">What it can see</h3>
              <SightFigures parts={shown.sight} says={shown.sightSays} />
              {result?.ok === true && (
                <div className="mt-3 space-y-2">
                  {choice}
                  <DetectionCurve
                    key={result.value.plan.hash}
                    plan={result.value.plan}
                    part={part}
                    label={changed === undefined ? 'The worked example' : 'As you changed it'}
                    others={others.map(({ label, plan }) => ({ label, plan }))}
                  />
                </div>
              )}
              <ProvedRuns procedureId={procedureId} />
            </>
          )}
          {shown.advice.length > 0 && (
            <ul className="mt-3 space-y-1.5">
              {shown.advice.map((text) => (
                <li key={text}>
                  <Notice tone="caution">{text}</Notice>
                </li>
              ))}
            </ul>
          )}
        </div>
      </div>
    </section>
  );
}
