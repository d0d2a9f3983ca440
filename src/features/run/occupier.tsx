'use client';

import type { Judgement } from '@/core/judging';
import type { Plan } from '@/core/planning';
import { procedureById } from '@/core/procedures';
import { occupierNews, occupierWords } from '@/core/running';
import { ShareText } from '@/ui/share-text';
import { hourText } from '@/ui/when';

/** What the occupier can be told now, ready to be handed on. */
export function Occupier({ plan, judgement, dueAt }: { readonly plan: Plan; readonly judgement: Judgement; readonly dueAt?: number }) {
  const procedure = procedureById(plan.procedure.id);
  // To the next whole minute: nobody is told a second.
  const news = procedure === undefined ? undefined : occupierNews(procedure, judgement, dueAt);
  if (news === undefined) return null;
  const text = occupierWords(news, (at) => hourText(Math.ceil(at / 60_000) * 60_000));
  return (
    <section className="border-l-4 border-line bg-surface px-3 py-2" aria-label="For the occupier">
      <h2 className="font-semibold">For the occupier</h2>
      <p>{text}</p>
      <ShareText text={text} />
    </section>
  );
}
