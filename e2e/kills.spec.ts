import { killCycles } from '../bench/kill-cycles';
import { testDatabase } from '../ops/test-database';
import { dateText } from '../src/core/judging';
import { planFor } from '../src/core/simulation/examples.fixture';
import { expect, registerOf, signIn, test } from './app';

/* A short form of the kill test; ./test kills 64 is the long one. */

test('the server is killed while devices write and pages give commands: nothing acknowledged is lost, nothing is doubled', async ({
  app,
  browser,
}, info) => {
  test.setTimeout(120_000);
  const database = await testDatabase('demo', `kills${info.workerIndex}`);
  try {
    // The same demo firm, in a database of its own: who signs in is told by the one that runs.
    const context = await app.context(browser);
    await signIn(context, 'wren');
    const register = await registerOf(app, context);
    const killed = await killCycles(4, {
      appUrl: database.appUrl,
      firmId: register.firm.id,
      email: 'wren@lindqvay.invalid',
      password: 'harbour-demo-1',
      author: register.person.userId,
      system: register.systems[0].id,
      plan: planFor({ on: dateText(Date.now()) }),
      environment: { VAST_DATABASE_URL: database.appUrl, VAST_AUTH_DATABASE_URL: database.authUrl },
    });
    expect(killed.faults).toEqual([]);
    expect(killed.acknowledged).toBeGreaterThan(20);
    expect(killed.commands).toBeGreaterThan(1);
  } finally {
    await database.drop();
  }
});
