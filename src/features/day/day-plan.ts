import { plannedTasks } from '@/core/judging';
import { type DayTest, planTest } from '@/core/planning';
import { type Procedure, procedureById, proceduresFor, type Task } from '@/core/procedures';
import { equip } from '@/features/plan/suited';
import { usualStart, withDefaults } from '@/features/plan/use-draft';
import type { Kit, KitSystem } from '@/server/field';

/** A test that is meant to be done on a site's day. */
export interface DayEntry {
  readonly systemId: string;
  readonly procedureId: string;
}

/** What is kept of a day on this device, per site. */
export interface DayPlan {
  /** Local date. */
  readonly on: string;
  /** In the order in which they are begun, where the person has set one. */
  readonly entries: readonly DayEntry[];
  readonly ordered: boolean;
  readonly people: number;
  /** When it begins, ms; set when the first test is added. */
  readonly startAt?: number;
}

const keyOf = (siteId: string) => `vast-stone-day-${siteId}`;

export function readDay(siteId: string, on: string): DayPlan {
  const none: DayPlan = { on, entries: [], ordered: false, people: 1 };
  try {
    const kept = JSON.parse(localStorage.getItem(keyOf(siteId)) ?? 'null') as DayPlan | null;
    return kept?.on === on && Array.isArray(kept.entries) ? kept : none;
  } catch {
    return none;
  }
}

export const keepDay = (siteId: string, day: DayPlan): void => localStorage.setItem(keyOf(siteId), JSON.stringify(day));

/** The procedure that a system is usually tested by: that of its last test, else the first of its kind. */
export function usualProcedure(kit: Kit, system: KitSystem): Procedure | undefined {
  const last = kit.earlier.find(({ systemId }) => systemId === system.id)?.procedure;
  return procedureById(last ?? '') ?? proceduresFor(system.kind)[0];
}

/** Tasks with the waiting that this system's own plan takes, where one can be made: a longer hold by a house rule counts. */
function tasksOf(
  kit: Kit,
  system: KitSystem,
  procedure: Procedure,
  on: string,
): { readonly tasks: readonly Task[]; readonly gauge?: string } {
  const start = withDefaults(procedure, usualStart(kit, system, procedure));
  const input = {
    procedure: procedure.id,
    answers: start.answers,
    pipes: start.pipes,
    statedVolume: start.statedVolume,
    houseRules: kit.houseRules,
    on,
  };
  const equipment = equip(procedure, kit.instruments, input, start);
  const gauge = procedure.noGauge === true ? procedure.example.gauge : equipment.gauge;
  const planned = gauge === undefined ? undefined : planTest({ ...input, gauge, instruments: equipment.instruments });
  const named = procedure.noGauge === true || equipment.gauge === undefined ? {} : { gauge: equipment.gauge.name };
  if (planned?.ok !== true) return { tasks: procedure.tasks, ...named };
  return { tasks: plannedTasks(procedure.tasks, planned.value.plan), ...named };
}

/** The entries as tests to lay out. A gauge that two of them would use is handed from one to the other, and so is what a van carries once. */
export function dayTests(kit: Kit, entries: readonly DayEntry[], on: string): readonly DayTest[] {
  return entries.flatMap(({ systemId, procedureId }): DayTest[] => {
    const system = kit.systems.find(({ id }) => id === systemId);
    const procedure = procedureById(procedureId);
    if (system === undefined || procedure === undefined) return [];
    const { tasks, gauge } = tasksOf(kit, system, procedure, on);
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
