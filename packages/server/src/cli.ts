import '@vast-swarm/core/content';
import { Command, InvalidArgumentError, Option } from 'commander';
import { availableParallelism } from 'node:os';
import { exactRate, PieceError } from '@vast-swarm/core/piece';
import { FRAME_PASSES, type FramePass } from '@vast-swarm/core/plan';
import { jointsBehind } from './ports';
import { Refused } from './refused';
import { endWithReader, tell } from './say';
import type { standIn } from './standIn';
import type { diff } from './diff/diff';
import { CODECS, formatNames, QUALITIES } from '@vast-swarm/core/formats';

/** Exit codes: 0 done, 1 the piece or the work failed, 2 the command was not understood. */

function whole(text: string): number {
  const value = Number(text);
  if (!Number.isInteger(value) || value < 1)
    throw new InvalidArgumentError('a whole number from 1');
  return value;
}

/** More threads would only wait for each other. */
const MOST_THREADS = 64;

function threads(text: string): number {
  const value = whole(text);
  if (value > MOST_THREADS) throw new InvalidArgumentError(`1 to ${String(MOST_THREADS)} threads`);
  return value;
}

const usualThreads = Math.min(MOST_THREADS, availableParallelism());

function port(text: string): number {
  const value = Number(text);
  if (!/^\d+$/.test(text) || value > 65535) throw new InvalidArgumentError('a number up to 65535');
  return value;
}

function frames(text: string): [number, number] {
  const match = /^(\d+)(?:\.\.(\d+))?$/.exec(text);
  const [a, b] = [Number(match?.[1]), Number(match?.[2] ?? match?.[1])];
  if (!match || b < a) throw new InvalidArgumentError("frames are 'A..B', as 0..59, or one frame");
  return [a, b];
}

function size(text: string): [number, number] {
  const match = /^(\d+)x(\d+)$/.exec(text);
  if (!match) throw new InvalidArgumentError("a size is 'WxH', as 1920x1080");
  return [Number(match[1]), Number(match[2])];
}

function target(text: string): { host: string; port: number } {
  const match = /^(.+):(\d+)$/.exec(text);
  if (!match) throw new InvalidArgumentError("an address is 'HOST:PORT', as 10.0.0.8:5568");
  return { host: match[1]!, port: port(match[2]!) };
}

function chunk(text: string): [number, number] {
  const match = /^(\d+)\/(\d+)$/.exec(text);
  const [which, of] = [Number(match?.[1]), Number(match?.[2])];
  if (!match || which < 1 || which > of) {
    throw new InvalidArgumentError("a stretch is 'K/N', as 2/5 for the second of five");
  }
  return [which, of];
}

function layers(text: string): FramePass[] {
  const names = text.split(',') as FramePass[];
  const odd = names.find((name) => !FRAME_PASSES.includes(name));
  if (odd === undefined) return FRAME_PASSES.filter((name) => names.includes(name));
  throw new InvalidArgumentError(`layers are ${FRAME_PASSES.join(', ')}, with commas between`);
}

function millions(text: string): number {
  const value = Number(text);
  if (!(value >= 0.1 && value <= 2000)) throw new InvalidArgumentError('a number from 0.1 to 2000');
  return value;
}

function steps(text: string): number {
  const value = Number(text);
  if (text === '' || !(value >= 0)) throw new InvalidArgumentError('a number from 0');
  return value;
}

function rate(text: string): number {
  const value = Number(text);
  if (!(value >= 1 && value <= 240)) {
    throw new InvalidArgumentError(
      'frames a second, from 1 to 240; 29.97 is 30000 in 1001 seconds',
    );
  }
  return exactRate(value);
}

function degrees(text: string): number {
  const value = Number(text);
  if (!(text !== '' && value >= 0 && value <= 720)) {
    throw new InvalidArgumentError('degrees from 0 to 720; 180 is half a frame');
  }
  return value;
}

function list(value: string, before: string[]): string[] {
  return [...before, value];
}

/** The port of the page where none is said. */
const usual = port(process.env.PORT ?? '5180');

/** The work of a command, loaded when it is asked for: no command waits for what others need. */
function does<A extends unknown[]>(
  load: () => Promise<(...args: A) => unknown>,
): (...args: A) => Promise<void> {
  return async (...args) => {
    await (
      await load()
    )(...args);
  };
}

const program = new Command('vast-swarm')
  .description('Simulates and renders pieces of Vast Swarm, and serves the application.')
  .exitOverride();

const work = (name: string, about: string): Command =>
  program
    .command(name)
    .description(about)
    .argument('<file>', 'a piece file')
    .option('--set <part.dial=value>', 'set a dial; may be given several times', list, [])
    .option('--played <file.csv>', 'what is played of controls and cues, in place of its own')
    .option('--stretch <n>', 'of a table of a night: which stretch of it is played', whole)
    .option('--threads <n>', 'threads to work with', threads, usualThreads);

work('check', 'Says what is wrong with a piece file, or what is in it.').action(
  does(async () => (await import('./check')).check),
);
work('simulate', 'Writes the particles of a swarm to PLY or CSV.')
  .option('--frames <A..B>', 'frames, from first to last; the last one is written', frames)
  .requiredOption('--swarm <name>', 'the swarm, by name or id')
  .requiredOption('--out <file>', 'FILE.ply or FILE.csv; with %04d in the name a file per frame')
  .action(does(async () => (await import('./simulate')).simulate));
work('export', 'Writes particles for other programs: a scene with all its frames, or tables.')
  .option('--frames <A..B>', 'frames, from first to last; all if not given', frames)
  .option(
    '--swarm <name>',
    'a swarm, by name or id; may be given several times; all if not',
    list,
    [],
  )
  .option('--json', 'prints a line of JSON for each frame that is done')
  .requiredOption(
    '--out <file>',
    'FILE.usda, FILE.ply or FILE.csv; tables with %04d: a file per frame',
  )
  .action(does(async () => (await import('./exportParticles')).exportParticles));
work('signals', 'Writes the values of all signals, frame by frame.')
  .option('--frames <A..B>', 'frames, from first to last; all if not given', frames)
  .requiredOption('--out <file>', 'FILE.csv')
  .action(does(async () => (await import('./signals')).signals));
work('render', 'Writes numbered frames.')
  .option('--frames <A..B>', 'frames, from first to last; all if not given', frames)
  .option('--size <WxH>', "size in pixels; the piece's if not given", size)
  .option('--oversample <k>', 'draw at k times the size and average, 1 to 4', whole, 1)
  .option('--shutter <degrees>', "how long the shutter is open; the camera's if not given", degrees)
  .option('--loop', 'the end runs into the beginning, as if the piece said so itself')
  .option('--chunk <K/N>', 'of the frames only the K-th of N stretches', chunk)
  .addOption(
    new Option(
      '--format <name>',
      'png, png16: 8 or 16 bits of sRGB; exr: OpenEXR, linear light in half precision; mp4, webm, mov: a video with sound; as --out ends if not given',
    ).choices(formatNames()),
  )
  .option('--alpha', 'no backdrop: what bodies leave free is transparent')
  .option(
    '--layers [names]',
    `of OpenEXR, beside the picture: ${FRAME_PASSES.join(', ')}; all if none is named`,
    layers,
  )
  .addOption(
    new Option('--codec <name>', 'of a video; the first one of its format if not given').choices(
      Object.keys(CODECS),
    ),
  )
  .addOption(
    new Option('--quality <name>', 'of a video; good if not given')
      .choices(Object.keys(QUALITIES))
      .conflicts('bits'),
  )
  .option('--bits <n>', 'of a video: millions of bits a second, in place of a quality', millions)
  .option('--resume', 'goes on with the frames that are there from a render before')
  .option('--json', 'prints a line of JSON for each frame that is done')
  .option('--look <file>', 'a small PNG of the latest frame, written about once a second')
  .requiredOption('--out <path>', 'a folder, a name with %04d for the number, or a video file')
  .action(does(async () => (await import('./render')).render));
program
  .command('night')
  .description('Renders a night of a show as its output showed it, with its sound.')
  .argument('<show>', 'a show, as it is exported: a zip')
  .requiredOption('--played <table>', 'what happened in the night, as the desk saves it (CSV)')
  .option('--size <WxH>', "size in pixels; the show's, or 1920x1080, if not given", size)
  .option('--rate <n>', 'frames a second', rate, 30)
  .option('--threads <n>', 'threads of each engine', threads, usualThreads)
  .addOption(new Option('--codec <name>', 'of a video').choices(['h264', 'vp9']))
  .addOption(
    new Option('--quality <name>', 'of a video').choices(Object.keys(QUALITIES)).default('good'),
  )
  .option('--json', 'prints a line of JSON for each frame that is done')
  .requiredOption('--out <path>', 'a folder, a name with %04d for the number, or a video file')
  .action(does(async () => (await import('./night/night')).night));
program
  .command('diff')
  .description(
    'Says how two frames, or the frames of two folders, differ; exit code 1 over the limit.',
  )
  .argument('<a>', 'a .png or .exr file, or a folder of them')
  .argument('<b>', 'another one')
  .option('--limit <n>', 'largest difference that passes, in steps of 8 bits', steps, 0)
  .option('--json', 'prints a line of JSON for each frame')
  .action(async (a: string, b: string, options: Parameters<typeof diff>[2]) => {
    if (!(await (await import('./diff/diff')).diff(a, b, options))) process.exitCode = 1;
  });
program
  .command('demo')
  .description('Writes the pieces of the demo show.')
  .requiredOption('--out <dir>', 'folder for the pieces; made if it is not there')
  .action(does(async () => (await import('./give')).demo));
program
  .command('schema')
  .description('Prints the JSON Schema of piece files.')
  .option('--out <file>', 'a file to write it to')
  .action(does(async () => (await import('./give')).schema));
program
  .command('blank')
  .description('Prints a piece to begin with.')
  .option('--name <name>', 'its name', 'Untitled')
  .option('--out <file>', 'a file to write it to')
  .action(does(async () => (await import('./give')).blank));
program
  .command('serve')
  .description('Serves the application on this machine.')
  .option('--port <n>', 'port; 0 takes a free one', port, usual)
  .option('--joints <n>', 'UDP port for controls and joints; the one behind the port', port)
  .option('--host <address>', 'address to listen at; this machine alone if not given')
  .option('--wall <host:port>', 'where the wall of a show hears sACN', target)
  .option(
    '--renders <folder>',
    'where renders are kept; .vast-swarm/renders in the home folder if not given',
  )
  .option('--threads <n>', 'threads of each render', threads, usualThreads)
  .option('--at-once <n>', 'renders that are made at once', whole, 1)
  .option('--token <text>', 'what other machines have to know; made up if not given')
  .option('--queue <url>', 'a queue on Redis, from which workers take renders: redis://HOST:PORT')
  .option('--key <file>', 'a file with the key that the workers of the queue have too')
  .action(does(async () => (await import('./serve')).serve));
program
  .command('worker')
  .description('Makes frames of the renders in a queue, for a server that has the same one.')
  .requiredOption('--queue <url>', 'the queue: redis://HOST:PORT')
  .option('--key <file>', 'a file with the key that the server has too')
  .option('--threads <n>', 'threads that frames are made with', threads, usualThreads)
  .option('--name <text>', "what it is called; the machine's name if not given")
  .option(
    '--lease <s>',
    'seconds without a sign after which its frames go to another one',
    whole,
    30,
  )
  .action(does(async () => (await import('./farm/worker')).worker));
program
  .command('make-chunks', { hidden: true })
  .option('--threads <n>', '', threads, usualThreads)
  .action(async ({ threads: count }: { threads: number }) =>
    (await import('./farm/chunkProcess')).serveChunks(count),
  );
program
  .command('stand-in')
  .description(
    'Stands in for a device: made-up dancers who send their joints, or a wall of LED panels on a page.',
  )
  .argument('<what>', 'performers or wall')
  .option('--port <n>', 'UDP port that joints are sent to, or that the wall hears', port)
  .option('--rate <n>', 'performers: poses a second', whole, 60)
  .option('--seconds <n>', 'performers: how long; for ever if not given', whole)
  .option('--page <n>', 'wall: port of its page; 0 takes a free one', port, usual + 10)
  .option('--map <file>', "wall: its pixel map; the demo show's if not given")
  .action(async (what: string, options: Omit<Parameters<typeof standIn>[1], 'joints'>) =>
    (await import('./standIn')).standIn(what, { ...options, joints: jointsBehind(usual) }),
  );

endWithReader();
try {
  await program.parseAsync();
} catch (error) {
  process.exitCode = report(error);
}

function report(error: unknown): number {
  if (error instanceof PieceError || error instanceof Refused) {
    tell(error.message);
    return 1;
  }
  if (error instanceof Error && 'exitCode' in error) {
    // Commander has said what it did not understand; help and version are no errors.
    return error.exitCode === 0 ? 0 : 2;
  }
  tell(error instanceof Error ? error.message : String(error));
  return 1;
}
