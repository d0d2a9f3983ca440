import { judge } from '@/core/judging';
import { LogBuilder } from '@/core/judging/log-builder.fixture';
import { exampleEvents, examplePlan, planFor } from '@/core/simulation/examples.fixture';
import type { OpenRun } from '@/device/use-run';
import { stepsOf } from './next-steps';

/* What a verdict offers, and what each offer does. */

const plan = planFor({ answers: { work: 'new' } });

function offers(
  events: OpenRun['events'],
  change: { readonly sealed?: string; readonly hasPen?: boolean; readonly plan?: typeof plan } = {},
) {
  const own = change.plan ?? plan;
  const done: unknown[] = [];
  const open = {
    run: { id: 'run', testId: 'test', number: 1, plan: own },
    test: { id: 'test', systemId: 's', system: 'Gas', site: 'Site', ...(change.sealed === undefined ? {} : { sealed: change.sealed }) },
    judgement: judge(own, events),
    hasPen: change.hasPen ?? true,
    mayWrite: true,
    restart: async (phase: string) => void done.push(['restart', phase]),
  } as unknown as OpenRun;
  const steps = stepsOf(
    open,
    () => done.push('run'),
    (from) => done.push(['plan', from]),
    () => done.push('locate'),
  );
  return {
    labels: steps.map(({ label }) => label),
    disabled: steps.filter(({ disabled }) => disabled === true).map(({ label }) => label),
    press: async (label: string | RegExp) => {
      const go = steps.find((step) => (typeof label === 'string' ? step.label === label : label.test(step.label)))?.go;
      if (typeof go === 'function') await go();
      else done.push(go?.address);
      return done;
    },
  };
}

test('while the course runs one goes back to it; a hold that was spoilt can be repeated from the verdict, by whoever has the pen', async () => {
  const begun = new LogBuilder(plan).proved().settled();
  expect(offers(begun.events).labels[0]).toBe('Back to the course');
  expect(await offers(begun.events).press('Back to the course')).toEqual(['run']);
  const spoilt = new LogBuilder(plan).proved().settled().held('20.50', '20.90');
  const repeat = /^Repeat from/;
  expect(offers(spoilt.events).labels.some((label) => repeat.test(label))).toBe(true);
  expect((await offers(spoilt.events).press(repeat))[0]).toEqual(['restart', expect.any(String)]);
  expect(offers(spoilt.events, { hasPen: false }).disabled.some((label) => repeat.test(label))).toBe(true);
});

test('a fall is looked for first, then tested again; once it is sealed nothing is planned from it any more', async () => {
  const events = exampleEvents(examplePlan('domestic-gas-millibar'), 'pipework-leak');
  const own = examplePlan('domestic-gas-millibar');
  const { labels, press } = offers(events, { plan: own });
  expect(labels[0]).toBe('Find the leak');
  expect(await press('Find the leak')).toEqual(['locate']);
  expect(new Set(labels).size).toBe(labels.length);
  const again = labels.filter((label) => !/^(Find|Certificate|To the certificate)/i.test(label));
  expect(again.length).toBeGreaterThan(0);
  const sealed = offers(events, { plan: own, sealed: 'C-1' });
  expect(sealed.disabled.length).toBeGreaterThan(0);
  expect(sealed.disabled).not.toContain('Find the leak');
});

test('a pass leads to its certificate; a smell of gas is never looked for by testing on', async () => {
  const own = examplePlan('domestic-gas-millibar');
  const sound = offers(exampleEvents(own, 'sound'), { plan: own });
  expect(sound.labels).not.toContain('Find the leak');
  expect((await sound.press(/certificate/i))[0]).toBe('/certificates/test/test');
  const smelled = new LogBuilder(plan).proved().settled().held('20.50', '18.00').write({ type: 'smell', text: '' });
  expect(offers(smelled.events).labels).not.toContain('Find the leak');
});
