import { spawn } from 'node:child_process';
import { launch } from './inPage';
import { large } from './large';
const child = spawn(process.execPath, ['packages/server/bin/vast-swarm.mjs', 'serve', '--port', '0']);
const url = await new Promise<string>((resolve) => { child.stdout.on('data', (d: Buffer) => resolve(/http:\/\/\S+/.exec(d.toString())![0])); });
const browser = await launch();
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
page.setDefaultTimeout(20000);
page.on('pageerror', (e) => console.log('PAGEERROR', e));
await page.addInitScript(() => { const tasks: number[] = []; Object.assign(window, { tasks }); new PerformanceObserver((list) => { for (const e of list.getEntries()) tasks.push(e.duration); }).observe({ entryTypes: ['longtask'] }); });
try { await large(page, url); } catch (e) { console.log(e); await page.screenshot({ path: '/tmp/w/large.png' }); }
await page.screenshot({ path: '/tmp/w/large.png' });
child.kill(); await browser.close(); process.exit(0);
