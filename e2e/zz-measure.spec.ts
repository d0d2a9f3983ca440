import { expect, test } from './app';
test.use({ serviceWorkers: 'allow' });
test('measure', async ({ app, browser }) => {
  const page = await app.device(browser, 'iola', { serviceWorkers: 'allow', viewport: { width: 390, height: 844 } });
  await page.goto('/field');
  await page.evaluate(() => navigator.serviceWorker.ready.then(() => undefined));
  await expect.poll(() => page.evaluate(() => navigator.serviceWorker.controller !== null)).toBe(true);
  await expect(page.getByTestId('signal')).toHaveText('Saved and sent');
  await page.context().setOffline(true);
  await page.evaluate(async () => {
    const name = (await indexedDB.databases()).map((d) => d.name ?? '').find((d) => d.startsWith('vast-stone-'));
    const db: IDBDatabase = await new Promise((ok) => { const r = indexedDB.open(name as string); r.onsuccess = () => ok(r.result); });
    const all = (store: string): Promise<any[]> => new Promise((ok) => { const r = db.transaction(store).objectStore(store).getAll(); r.onsuccess = () => ok(r.result); });
    const [site] = await all('sites'); const [system] = await all('systems'); const [history] = await all('histories');
    const tx = db.transaction(['sites', 'systems', 'histories', 'lasts'], 'readwrite');
    for (let s = 0; s < 200; s += 1) {
      const siteId = crypto.randomUUID();
      tx.objectStore('sites').add({ ...site, id: siteId, name: `Site ${s}` });
      for (let k = 0; k < 10; k += 1) {
        const id = crypto.randomUUID();
        tx.objectStore('systems').add({ ...system, id, siteId, name: `System ${s} ${k}`, putAway: false });
        tx.objectStore('lasts').add({ systemId: id, at: history.at - s * 1000 });
        for (let h = 0; h < 3; h += 1) tx.objectStore('histories').add({ ...history, owes: [], test: crypto.randomUUID(), systemId: id, at: history.at - h * 8.64e7 - s * 1000 });
      }
    }
    await new Promise((ok) => { tx.oncomplete = ok; });
  });
  await page.addInitScript(() => {
    const look = () => { if (document.querySelector('#next, [aria-labelledby=next]') !== null) (window as any).shown ??= performance.now(); else requestAnimationFrame(look); };
    requestAnimationFrame(look);
  });
  for (let i = 0; i < 15; i += 1) {
    await page.goto('/field');
    await page.getByRole('region', { name: 'Next' }).waitFor();
    console.log('SHOWN', Math.round(await page.evaluate(() => (window as any).shown)), await page.evaluate(() => performance.getEntriesByType('mark').map((m) => m.name + ' ' + Math.round(m.startTime)).join(', ')), await page.evaluate(() => { const n = performance.getEntriesByType('navigation')[0] as any; return ['resp', n.responseEnd, 'dom', n.domContentLoadedEventStart, 'res', ...performance.getEntriesByType('resource').filter((r: any) => r.name.endsWith('.js')).map((r: any) => Math.round(r.startTime) + '-' + Math.round(r.responseEnd))].map((x) => typeof x === 'number' ? Math.round(x) : x).join(' '); }));
  }
});
