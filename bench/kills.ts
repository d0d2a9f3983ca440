import { dateText } from '@/core/judging';
import { planFor } from '@/core/simulation/examples.fixture';
import { benchFirm, password } from './firm';
import { killCycles } from './kill-cycles';

/* Usage: ./test kills [cycles] */

const { database, firmId, actors, systemId, letGo } = await benchFirm('kills', 1, 'supervisor');
await letGo();
const [{ email, userId }] = actors;

const killed = await killCycles(
  Number(process.argv[2] ?? 64),
  {
    appUrl: database.appUrl,
    firmId,
    email,
    password,
    author: userId,
    system: systemId,
    plan: planFor({ on: dateText(Date.now()) }),
    environment: {},
  },
  (line) => console.log(line),
);
console.log(
  `${killed.cycles} cycles, ${killed.acknowledged} events and ${killed.commands} commands acknowledged: ${killed.faults.length === 0 ? 'nothing lost, nothing doubled' : killed.faults.join('; ')}`,
);
await database.drop();
process.exit(killed.faults.length === 0 && killed.acknowledged > 0 ? 0 : 1);
