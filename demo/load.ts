import { sql } from 'drizzle-orm';
import { dateText } from '@/core/judging';
import { firstSections } from '@/core/locating';
import type { Role } from '@/core/permissions';
import { exampleInput, type Plan, planTest } from '@/core/planning';
import { procedureById } from '@/core/procedures';
import { bareInstrument, blank, componentText } from '@/core/register';
import { scenarioFor, simulateRun, uuidAt } from '@/core/simulation';
import { type Gauge, type Instrument, readsSystem } from '@/core/sizing';
import { accounts, closeConnections } from '@/db/connection';
import { user } from '@/db/schema';
import type { Actor } from '@/server/actor';
import { stopAnnouncing } from '@/server/announce';
import type { Answer } from '@/server/answers';
import { addPerson } from '@/server/auth';
import { at } from '@/server/clock';
import { judgementHash } from '@/server/drafts';
import { appendEvents } from '@/server/events';
import { addFirm, saveFirm, saveLicence } from '@/server/firms';
import { endFollowUp, openFollowUps } from '@/server/follow-ups';
import { addCalibration, listInstruments } from '@/server/instruments';
import { rotateKey } from '@/server/keys';
import { publishOwnProcedure, setHouseRule } from '@/server/rules';
import { sealTest } from '@/server/sealing';
import { addSignature } from '@/server/signatures';
import { listSites } from '@/server/sites';
import { createRun, createTest, readTest } from '@/server/tests';
import { makeThing } from '@/server/things';
import { type DemoJob, demoPassword, firm, firmSettings, history, otherFirm, otherPeople, people, sites } from './firm';
import { instruments, standInFor } from './instruments';

/** The procedure of most of its jobs. */
const domestic = 'domestic-gas-millibar';

const day = 86_400_000;
const firmId = uuidAt(1, 1);
const otherFirmId = uuidAt(2, 1);

function must<T>(result: Answer<T>): T {
  if (!result.ok) throw new Error(`demo: ${result.problem.message}`);
  return result.value;
}

/** A pen's scrawl, so that the demo's certificates have something where a signature goes. */
const scrawl = (seed: number): number[][] => [
  Array.from({ length: 60 }, (_, index) =>
    Math.round(index % 2 === 0 ? 800 + index * 110 : 1300 + 700 * Math.sin(index * (0.35 + seed * 0.07)) * Math.cos(index * 0.11)),
  ),
];

async function load(): Promise<void> {
  const today = Date.now();
  const [first] = await accounts().select({ people: sql<number>`count(*)::int` }).from(user);
  if (first.people > 0) return;
  const began = today - 200 * day;
  await at(began, async () => {
    await addFirm(firmId, firm.name, firm.emergencyNumber);
    await rotateKey(firmId);
    await addFirm(otherFirmId, otherFirm.name, otherFirm.emergencyNumber);
    await rotateKey(otherFirmId);
  });
  const actors: Actor[] = [];
  for (const person of people) actors.push(await addPerson({ ...person, role: person.role as Role, firmId, password: demoPassword }));
  for (const person of otherPeople) {
    const actor = await addPerson({ ...person, role: person.role as Role, firmId: otherFirmId, password: demoPassword });
    const row = { name: 'Tannery Row', address: '3 Tannery Row, Nethermere', occupier: 'Row Tenants' };
    const { id: siteId } = must(await makeThing(actor, 'site', row));
    const shop = { siteId, name: 'Gas, shop', pipes: '22cu 6', sections: firstSections('gas', ['Boiler']) };
    const { id: systemId } = must(await makeThing(actor, 'system', shop));
    must(await makeThing(actor, 'component', { systemId, kind: 'Boiler' }));
  }
  const supervisor = actors[2];
  must(await saveFirm(supervisor, firmSettings));
  for (const [index, { licence }] of people.entries()) must(await saveLicence(supervisor, actors[index].userId, { licence }));
  await at(began, async () => {
    for (const { systems, ...form } of sites) {
      const { id: siteId } = must(await makeThing(supervisor, 'site', form));
      for (const { answers = {}, components, kind = 'gas', ...system } of systems) {
        const sections = firstSections(
          kind,
          components.map((one) => componentText({ ...blank.component, ...one })),
        );
        const { id: systemId } = must(await makeThing(supervisor, 'system', { ...system, siteId, kind, answers, sections }));
        for (const one of components) must(await makeThing(supervisor, 'component', { ...one, systemId }));
      }
    }
  });
  for (const { calibratedDaysAgo, validDays = 365, ...instrument } of instruments) {
    const { id } = must(await makeThing(supervisor, 'instrument', instrument));
    if (calibratedDaysAgo === undefined) continue;
    const doneOn = today - calibratedDaysAgo * day;
    must(
      await addCalibration(supervisor, id, {
        doneOn: dateText(doneOn),
        dueOn: dateText(doneOn + validDays * day),
        reference: `CAL-${instrument.serial}`,
      }),
    );
  }
  must(
    await setHouseRule(supervisor, {
      procedure: domestic,
      figure: 'settle-seconds',
      value: '90',
      reference: 'Lindqvay house practice 3',
    }),
  );
  // Leaks show after a quarter of an hour: the house holds an hour.
  must(
    await setHouseRule(supervisor, {
      procedure: 'gas-piping-psi',
      figure: 'floor-seconds',
      value: '3600',
      reference: 'Lindqvay house practice 5',
    }),
  );
  must(
    await setHouseRule(supervisor, {
      procedure: 'water-isolation-hold',
      figure: 'hold-seconds',
      value: '1500',
      reference: 'Lindqvay house practice 8',
    }),
  );
  const own = { base: domestic, title: 'Harbour flats, domestic gas', reference: 'Quayside letting code 12' };
  const published = must(await publishOwnProcedure(supervisor, { ...own, figures: [{ figure: 'hold-seconds', value: '240' }] }));
  must(
    await publishOwnProcedure(supervisor, {
      ...own,
      id: published.id,
      figures: [
        { figure: 'hold-seconds', value: '300' },
        { figure: 'permitted-diaphragm-6-28', value: '2.0' },
      ],
    }),
  );

  const placed = (await listSites(supervisor)).flatMap(({ name, systems }) => systems.map((system) => ({ site: name, system })));
  const owned = (await listInstruments(supervisor)).map(bareInstrument).filter(readsSystem);
  for (const [index, job] of history.entries()) {
    const place = placed.find(({ site, system }) => site === job.site && system.name === job.system);
    if (place === undefined) throw new Error(`demo: no system ${job.system}`);
    await makeTest(actors[job.technician], place.system, owned, job, index, today);
  }
  // What is a month old was seen to, and somebody wrote how.
  for (const { id, kind, due } of await openFollowUps(firmId)) {
    const dueAt = Date.parse(`${due}T12:00Z`);
    if (dueAt > today - 30 * day) continue;
    const outcome = kind === 'guard' ? 'The screed is down, gauge taken off' : 'Handed over to the owner’s own contractor, in writing';
    await at(dueAt + 3 * day, async () => must(await endFollowUp(supervisor, id, { outcome })));
  }
}

/** A job's plan, on the firm's simulated stand-ins. */
function planOf(job: DemoJob, system: PlacedSystem, owned: readonly Instrument[], on: string): Plan {
  const procedure = procedureById(job.procedure ?? domestic);
  if (procedure === undefined) throw new Error(`demo: no procedure ${job.procedure}`);
  const { example } = procedure;
  const planned = planTest({
    ...exampleInput(procedure, on),
    answers: {
      ...Object.fromEntries(procedure.parameters.map((parameter) => [parameter.id, parameter.usual])),
      ...system.answers,
      ...job.answers,
    },
    pipes: system.pipes,
    gauge: procedure.noGauge === true ? example.gauge : (standInFor(example.gauge, owned) as Gauge),
    instruments: Object.fromEntries(Object.entries(example.instruments ?? {}).map(([role, one]) => [role, standInFor(one, owned)])),
  });
  if (!planned.ok) throw new Error(`demo: ${job.system}: ${planned.problems[0].message}`);
  return planned.value.plan;
}

interface PlacedSystem {
  readonly id: string;
  readonly kind: string;
  readonly pipes: string;
  readonly answers: Readonly<Record<string, string>>;
}

async function makeTest(
  actor: Actor,
  system: PlacedSystem,
  owned: readonly Instrument[],
  job: DemoJob,
  index: number,
  today: number,
): Promise<void> {
  const startAt = Math.floor((today - job.daysAgo * day) / day) * day + (8 + (index % 6)) * 3_600_000 + index * 7 * 60_000;
  const plan = planOf(job, system, owned, dateText(startAt));
  const testId = uuidAt(1000 + index, 1);
  const runId = uuidAt(1000 + index, 2);
  const scenario = scenarioFor(plan, job.scenario);
  if (scenario === undefined) throw new Error(`demo: no scenario ${job.scenario}`);
  const events = simulateRun({
    plan,
    scenario,
    run: runId,
    author: actor.userId,
    device: `van-tablet-${(index % 2) + 1}`,
    startAt,
    offsetMinutes: 0,
    smellBefore: job.smellBefore,
  });
  const over = (events.at(-1)?.enteredAt ?? startAt) + 60_000;
  await at(startAt, async () => {
    must(
      await createTest(actor, {
        id: testId,
        systemId: system.id,
        details: {
          jobOrigin: 'Landlord’s yearly round',
          visualInspection: 'done',
          // What has no meter states none.
          ...(['gas', 'water'].includes(system.kind)
            ? { meterNumber: `M-${4100 + index * 37}`, meterReading: `${2210 + index * 118}` }
            : {}),
        },
      }),
    );
    must(await createRun(actor, { id: runId, testId, number: 1, plan }));
  });
  await at(over, async () => {
    must(await appendEvents(actor, runId, events));
    if (!job.seal) return;
    const hash = judgementHash(must(await readTest(actor, testId)));
    const sign = (role: 'technician' | 'customer', name: string, number: number) =>
      addSignature(actor, testId, {
        id: uuidAt(1000 + index, number),
        role,
        name,
        strokes: scrawl(index + number),
        judgementHash: hash,
        signedAt: over,
      });
    must(await sign('technician', actor.name, 3));
    must(await sign('customer', 'Sefa Dunmore', 4));
    must(await sealTest(actor, testId));
  });
}

await load();
stopAnnouncing();
await closeConnections();
