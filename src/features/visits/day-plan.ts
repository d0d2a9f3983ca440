import { plannedTasks } from '@/core/judging';
import { type DayTest, planTest } from '@/core/planning';
import { type Procedure, procedureById, proceduresFor, type Task } from '@/core/procedures';
import type { Said } from '@/core/register';
import type { Ground, GroundSystem } from '@/device/ground';
import { equip } from '@/features/plan/suited';
import { asUsual, usualStart } from '@/features/plan/use-draft';

/** The procedure that a system is usually tested by: that of its last test, else the first of its kind. */
export function usualProcedure(ground: Ground, system: GroundSystem): Procedure | undefined {
  const last = ground.earlier.find(({ systemId }) => systemId === system.id)?.procedure;
  return procedureById(last ?? '') ?? proceduresFor(system.kind)[0];
}

/** Tasks with the waiting that this system's own plan takes, where one can be made: a longer hold by a house rule counts. */
function tasksOf(
  ground: Ground,
  system: GroundSystem,
  procedure: Procedure,
  on: string,
): { readonly tasks: readonly Task[]; readonly gauge?: string } {
  const start = asUsual(procedure, usualStart(ground, system, procedure));
  const input = {
    procedure: procedure.id,
    answers: start.answers,
    pipes: start.pipes,
    statedVolume: start.statedVolume,
    houseRules: ground.houseRules,
    on,
  };
  const equipment = equip(procedure, ground.instruments, input, start);
  const gauge = procedure.noGauge === true ? procedure.example.gauge : equipment.gauge;
  const planned = gauge === undefined ? undefined : planTest({ ...input, gauge, instruments: equipment.instruments });
  const named = procedure.noGauge === true || equipment.gauge === undefined ? {} : { gauge: equipment.gauge.name };
  if (planned?.ok !== true) return { tasks: procedure.tasks, ...named };
  return { tasks: plannedTasks(procedure.tasks, planned.value.plan), ...named };
}

/** The entries as tests to lay out. A gauge that two of them would use is handed from one to the other, and so is what a van carries once. */
export function dayTests(ground: Ground, entries: Said<'visit'>['tests'], on: string): readonly DayTest[] {
  return entries.flatMap(({ system: systemId, procedure: procedureId }): DayTest[] => {
    const system = ground.systems.find(({ id }) => id === systemId);
    const procedure = procedureById(procedureId);
    if (system === undefined || procedure === undefined) return [];
    const { tasks, gauge } = tasksOf(ground, system, procedure, on);
    return [
      {
        id: `${systemId} ${procedureId}`,
        title: system.name,
        tasks,
        needs: [...(gauge === undefined ? [] : [gauge]), ...(procedure.carriedOnce ?? [])],
      },
    ];
  });
}

export type DayTests = ReturnType<typeof dayTests>;
