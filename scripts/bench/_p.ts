import { spawn } from 'node:child_process';
import { pieceText } from '@vast-swarm/core';
import { launch } from './inPage';
import { largePiece } from './large';
const child = spawn(process.execPath, ['packages/server/bin/vast-swarm.mjs', 'serve', '--port', '0']);
const url = await new Promise<string>((resolve) => { child.stdout.on('data', (d: Buffer) => resolve(/http:\/\/\S+/.exec(d.toString())![0])); });
const browser = await launch();
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
page.setDefaultTimeout(20000);
await page.addInitScript(() => { const tasks: number[] = []; Object.assign(window, { tasks }); new PerformanceObserver((list) => { for (const e of list.getEntries()) tasks.push(e.duration); }).observe({ entryTypes: ['longtask'] }); });
await page.goto(url);
const file = { name: 'large.json', mimeType: 'application/json', buffer: Buffer.from(pieceText(largePiece())) };
await page.getByLabel('Piece files').setInputFiles(file);
await page.getByRole('link', { name: 'Open Large' }).first().click();
await page.getByTestId('picture').and(page.locator('[data-playing=true]')).waitFor();
const lineUp = page.getByRole('navigation', { name: 'Line-up' });
const part = (name: string) => lineUp.getByRole('button', { name, exact: true });
await page.waitForTimeout(2500);
const cdp = await page.context().newCDPSession(page);
await cdp.send('Profiler.enable'); await cdp.send('Profiler.setSamplingInterval', { interval: 200 });
async function profile(name: string, act: () => Promise<void>) {
  await page.evaluate(() => ((window as any).tasks.length = 0));
  await cdp.send('Profiler.start');
  await act();
  await page.waitForTimeout(700);
  const { profile: p } = (await cdp.send('Profiler.stop')) as any;
  const tasks = await page.evaluate(() => (window as any).tasks);
  const dt = p.timeDeltas; const self = new Map<number, number>();
  p.samples.forEach((id: number, i: number) => self.set(id, (self.get(id) ?? 0) + dt[i] / 1000));
  const nodes = new Map<number, any>(p.nodes.map((n: any) => [n.id, n]));
  const total = new Map<string, number>(); const selfBy = new Map<string, number>();
  const walk = (id: number, stack: string[]): number => {
    const n = nodes.get(id); const key = n.callFrame.functionName || '(anon)';
    let t = self.get(id) ?? 0; selfBy.set(key, (selfBy.get(key) ?? 0) + t);
    for (const c of n.children ?? []) t += walk(c, [...stack, key]);
    if (!stack.includes(key)) total.set(key, (total.get(key) ?? 0) + t);
    return t;
  };
  walk(p.nodes[0].id, []);
  const top = (m: Map<string, number>, n: number) => [...m].sort((a, b) => b[1] - a[1]).slice(0, n).filter(([k]) => !['(root)', '(program)', '(idle)'].includes(k)).map(([k, v]) => `${k} ${v.toFixed(0)}`).join(', ');
  console.log(`## ${name} tasks ${JSON.stringify(tasks)}\nCOMPONENTS ${top(new Map([...total].filter(([k]) => /^[A-Z][a-z]/.test(k) || k.startsWith('use'))), 45)}\n`);
}
const which = process.argv[2] ?? '';
if (which === 'force') await profile('select force', () => part('Vortex').click());
if (which === 'swarm') await profile('select swarm', () => part('Swarm 5').click());
if (which === 'type') { await part('Swarm 5').click(); await page.waitForTimeout(2000); const r = page.getByRole('textbox', { name: 'Rate' }); await profile('type', async () => { await r.fill('12'); await r.press('Enter'); }); }
if (which === 'add') { await profile('open chooser', () => lineUp.getByRole('button', { name: 'Add a force' }).click()); await profile('add', () => page.getByRole('menuitem', { name: /^Curl noise/ }).click()); await profile('undo', () => page.keyboard.press('Control+z')); }
if (which === 'off') { await profile('menu', () => lineUp.getByRole('button', { name: 'More for Swarm 8', exact: true }).click()); await profile('off', () => page.getByRole('menuitem', { name: 'Switch off' }).click()); }
if (which === 'key') { const k = page.getByRole('slider', { name: /, key 4$/ }).first(); await k.focus(); await page.waitForTimeout(500); await profile('key', () => k.press('ArrowUp')); }
if (which === 'find') { await page.locator('body').press('/'); await profile('find', () => page.keyboard.type('pers', { delay: 40 })); await profile('go', () => page.keyboard.press('Enter')); }
child.kill(); await browser.close(); process.exit(0);
