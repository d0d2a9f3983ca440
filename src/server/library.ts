import { dateText } from '@/core/judging';
import { type ProcedureView, type Together, togetherWith, viewOf, wordsOf } from '@/core/library';
import type { HouseRule } from '@/core/planning';
import { procedureById, procedures } from '@/core/procedures';
import type { Actor } from './actor';
import { type Answer, answer, notFound } from './answers';
import { now } from './clock';
import {
  type HouseRuleVersion,
  houseRuleHistory,
  listHouseRules,
  listOwnProcedures,
  type OwnProcedureVersion,
  ownProcedureHistory,
} from './rules';

/* The library of procedures as a firm sees it: with its house rules beside the figures, and its own procedures. */

export interface LibraryEntry {
  readonly view: Pick<ProcedureView, 'id' | 'title' | 'school' | 'purpose' | 'kinds' | 'activeMinutes' | 'passiveMinutes'>;
  /** What the search looks in. */
  readonly words: string;
  readonly houseRules: number;
  readonly own: readonly { readonly id: string; readonly title: string; readonly version: string }[];
}

const today = (): string => dateText(now());

export async function readLibrary(actor: Actor): Promise<readonly LibraryEntry[]> {
  const [rules, own] = await Promise.all([listHouseRules(actor.firmId), listOwnProcedures(actor.firmId)]);
  return procedures.map((procedure) => {
    const view = viewOf(procedure, rules, today());
    const { id, title, school, purpose, kinds, activeMinutes, passiveMinutes } = view;
    return {
      view: { id, title, school, purpose, kinds, activeMinutes, passiveMinutes },
      words: wordsOf(view),
      houseRules: rules.filter((rule) => rule.procedure === id).length,
      own: own.filter(({ base }) => base === id).map((one) => ({ id: one.id, title: one.title, version: one.version })),
    };
  });
}

export interface ProcedurePage {
  readonly view: ProcedureView;
  readonly standing: readonly HouseRule[];
  readonly on: string;
  readonly others: readonly { readonly id: string; readonly title: string; readonly school: string }[];
  readonly rules: readonly HouseRuleVersion[];
  readonly own: readonly OwnProcedureVersion[];
  readonly together?: Together;
}

export async function readProcedure(actor: Actor, id: string): Promise<Answer<ProcedurePage>> {
  const procedure = procedureById(id);
  if (procedure === undefined) return notFound;
  const [standing, rules, own] = await Promise.all([
    listHouseRules(actor.firmId),
    houseRuleHistory(actor.firmId),
    ownProcedureHistory(actor.firmId),
  ]);
  const together = togetherWith(procedure);
  return answer({
    together,
    view: viewOf(procedure, standing, today()),
    standing: standing.filter((rule) => rule.procedure === id),
    on: today(),
    others: procedures
      .filter((other) => other.id !== id && other.systemKinds.some((kind) => procedure.systemKinds.includes(kind)))
      .map((other) => ({ id: other.id, title: other.title, school: other.school })),
    rules: rules.filter((rule) => rule.procedure === id),
    own: own.filter(({ base }) => base === id),
  });
}
