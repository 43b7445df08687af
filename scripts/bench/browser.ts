import { DEMO_SHOW } from '@vast-swarm/core/demo';
import { firstSwarm, makePart, makePiece, pieceText, type Piece } from '@vast-swarm/core/piece';
import { spawn } from 'node:child_process';
import { readdirSync, readFileSync } from 'node:fs';
import { gzipSync } from 'node:zlib';
import type { Page } from 'playwright-core';
import { film } from './film';
import { launch } from '../../tests/support/launch';
import { contests } from './inPage';
import { large } from './large';
import { report } from './report';

/** Everything that a general-purpose 3D library can do too, in the same browser. */
function library(): Promise<void> {
  return contests('scripts/bench/library/page.ts', false, ({ name, ours, theirs }) => {
    report(name, ours, 'ms', theirs);
  });
}

/** Waits until what the picture tells about itself is as wanted, looking at every frame. */
async function told(page: Page, test: (data: DOMStringMap) => boolean): Promise<void> {
  for (;;) {
    const data = await page.getByTestId('picture').evaluate(
      (element) =>
        new Promise<DOMStringMap>((resolve) => {
          requestAnimationFrame(() => resolve(Object.assign({}, (element as HTMLElement).dataset)));
        }),
    );
    if (test(data)) return;
  }
}

async function application(): Promise<void> {
  const browser = await launch();
  const child = spawn(process.execPath, [
    'packages/server/bin/vast-swarm.mjs',
    'serve',
    '--port',
    '0',
  ]);
  const url = await new Promise<string>((resolve) => {
    child.stdout.on('data', (d: Buffer) => resolve(/http:\/\/\S+/.exec(d.toString())![0]));
  });
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.addInitScript(() => {
    const tasks: number[] = [];
    Object.assign(window, { tasks });
    new PerformanceObserver((list) => {
      for (const entry of list.getEntries()) tasks.push(entry.duration);
    }).observe({ entryTypes: ['longtask'] });
  });
  const start = performance.now();
  await page.goto(`${url}/piece/plankton-lantern`);
  await told(page, (d) => Number(d.alive) > 0);
  report('first moving picture after opening', performance.now() - start, 'ms', 3000);
  await page.getByRole('combobox', { name: 'Preview size' }).click();
  await page.getByRole('option', { name: '540 lines' }).click();
  await told(page, (d) => Number(d.frame) > 60);
  await page.evaluate(() => ((window as unknown as { tasks: number[] }).tasks.length = 0));
  const rates: number[] = [];
  for (let i = 0; i < 5; i++) {
    await page.waitForTimeout(1000);
    rates.push(Number(await page.getByTestId('picture').getAttribute('data-fps')));
  }
  rates.sort((a, b) => a - b);
  report('demo piece playing at 960x540, frames a second (median of 5 s)', rates[2]!, 'fps', 24);
  const box = (await page.getByRole('textbox', { name: 'Rate' }).boundingBox())!;
  await page.mouse.move(box.x + 20, box.y + 8);
  await page.mouse.down();
  const latencies: number[] = [];
  for (let i = 1; i <= 20; i++) {
    const before = await page.getByTestId('picture').getAttribute('data-frame');
    const moved = performance.now();
    await page.mouse.move(box.x + 20 + i, box.y + 8);
    await told(page, (d) => d.frame !== before);
    latencies.push(performance.now() - moved);
  }
  await page.mouse.up();
  latencies.sort((a, b) => a - b);
  report('from a dial drag to the next frame (median of 20)', latencies[10]!, 'ms', 100);
  const longest = await page.evaluate(() =>
    Math.max(0, ...(window as unknown as { tasks: number[] }).tasks),
  );
  report(
    'longest task of the interface while playing and dragging (0: none over 50)',
    longest,
    'ms',
    50,
  );
  await drift(page, url);
  await film(page, url);
  await large(page, url);
  await show(page, url);
  child.kill();
  await browser.close();
}

/** Where the sound was begun last, as the page keeps it. */
interface Heard {
  begun: { context: BaseAudioContext; when: number; frame: number } | null;
}

/** How far the picture is from the sound, in frames: of a piece of 50,000 particles, over five seconds. */
async function drift(page: Page, url: string): Promise<void> {
  await page.addInitScript(() => {
    const heard: Heard = { begun: null };
    Object.assign(window, { heard });
    const start: (this: AudioBufferSourceNode, when?: number) => void = Reflect.get(
      AudioBufferSourceNode.prototype,
      'start',
    );
    AudioBufferSourceNode.prototype.start = function (when = 0) {
      const { frame } = document.querySelector<HTMLElement>('[data-testid=picture]')!.dataset;
      heard.begun ??= { context: this.context, when, frame: Number(frame) };
      start.call(this, when);
    };
    const stop: (this: AudioBufferSourceNode) => void = Reflect.get(
      AudioBufferSourceNode.prototype,
      'stop',
    );
    AudioBufferSourceNode.prototype.stop = function () {
      heard.begun = null;
      stop.call(this);
    };
  });
  await page.goto(url);
  const buffer = Buffer.from(pieceText(heardPiece()));
  const file = { name: 'heard.json', mimeType: 'application/json', buffer };
  await page.getByLabel('Piece files').setInputFiles(file);
  await page.getByRole('link', { name: 'Open Heard' }).first().click();
  await told(page, (d) => Number(d.frame) > 90);
  const apart = await page.evaluate(async () => {
    const picture = document.querySelector<HTMLElement>('[data-testid=picture]')!;
    const { heard } = window as unknown as { heard: Heard };
    const found: number[] = [];
    const end = performance.now() + 5000;
    while (performance.now() < end) {
      await new Promise(requestAnimationFrame);
      if (!heard.begun) continue;
      const { context, when, frame } = heard.begun;
      const sounded = (context.currentTime - when) * 30;
      found.push(Math.abs(Number(picture.dataset.frame) - frame - sounded));
    }
    return found.sort((a, b) => a - b);
  });
  const at = (part: number): number => apart[Math.floor(part * (apart.length - 1))]!;
  report('picture against sound, 50,000 particles, 19 of 20 times within', at(0.95), 'frames', 1);
}

/** 50,000 particles beside the fog signal. */
function heardPiece(): Piece {
  const piece = makePiece('Heard');
  Object.assign(piece.frame, { length: 600, rate: 30 });
  const swarm = firstSwarm('sphere', []);
  Object.assign(swarm.dials, { rate: 25_000, lifetime: 2, limit: 60_000 });
  piece.swarms.push(swarm);
  piece.stock.push({ id: 'fog', name: 'Fog', type: 'sound', source: { made: 'fogSignal' } });
  piece.sounds.push(makePart('sounds', 'played', []));
  piece.sounds[0]!.dials.sound = 'fog';
  return piece;
}

/** Every piece of the show at the preview size that the workshop chooses. */
async function show(page: Page, url: string): Promise<void> {
  for (const { id } of DEMO_SHOW.pieces) {
    await page.goto(`${url}/piece/${id}`);
    await told(page, (d) => d.playing === 'true' && Number(d.frame) > 45);
    const rates: number[] = [];
    for (let i = 0; i < 3; i++) {
      await page.waitForTimeout(1000);
      rates.push(Number(await page.getByTestId('picture').getAttribute('data-fps')));
    }
    rates.sort((a, b) => a - b);
    report(`${id} playing at its preview size (median of 3 s)`, rates[1]!, 'fps', 20);
  }
}

function size(): void {
  const dir = 'packages/app/dist/';
  const html = readFileSync(`${dir}index.html`, 'utf8');
  const initial = readdirSync(`${dir}assets`).filter((f) => f.endsWith('.js') && html.includes(f));
  const bytes = initial.reduce(
    (sum, f) => sum + gzipSync(readFileSync(`${dir}assets/${f}`)).length,
    0,
  );
  report('initial JavaScript, compressed', bytes / 1024, 'KB', 500);
}

// Run from the project's folder, with the application built.
await library();
await application();
size();
