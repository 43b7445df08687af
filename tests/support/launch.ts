import { existsSync } from 'node:fs';
import { chromium, type Browser } from 'playwright-core';

/** Chromium without a window of any kind; a quarter faster, where it is installed. */
const SHELL = '/usr/bin/chromium-headless-shell';

const ARGS = [
  '--no-sandbox',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
];
/** An emulated graphics card; with fewer of these flags presenting kills the GPU process. */
const GPU_ARGS = [
  '--enable-unsafe-webgpu',
  '--use-webgpu-adapter=swiftshader',
  '--enable-features=Vulkan',
  '--use-vulkan=swiftshader',
  '--use-angle=swiftshader',
];

/** Devices that hear and see files, over and over; and nobody who has to be asked for them. */
function devices(hears: string, sees: string): string[] {
  return [
    '--use-fake-ui-for-media-stream',
    '--use-fake-device-for-media-stream',
    ...(hears ? [`--use-file-for-fake-audio-capture=${hears}`] : []),
    ...(sees ? [`--use-file-for-fake-video-capture=${sees}`] : []),
  ];
}

/**
 * @param options.hears a WAV file that the browser's microphone hears
 * @param options.sees a Y4M file that its camera sees
 */
export async function launch({ gpu = false, hears = '', sees = '' } = {}): Promise<Browser> {
  const executablePath = process.env.CHROMIUM ?? (existsSync(SHELL) ? SHELL : '/usr/bin/chromium');
  const own = hears || sees ? devices(hears, sees) : [];
  const args = [...ARGS, ...(gpu ? GPU_ARGS : []), ...own];
  return chromium.launch({ executablePath, args });
}
