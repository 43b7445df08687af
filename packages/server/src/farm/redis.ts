import { Redis } from 'ioredis';
import { Refused } from '../refused';

/** Milliseconds between two tries to come back to a queue that is gone for a while, at the most. */
const AGAIN = 2000;

/** A URL without the word that opens it. */
function shown(url: URL): string {
  return `${url.protocol}//${url.host}${url.pathname === '/' ? '' : url.pathname}`;
}

function urlOf(text: string): URL {
  try {
    const url = new URL(text);
    if (/^rediss?:$/.test(url.protocol)) return url;
  } catch {
    // As below.
  }
  throw new Refused(
    `--queue ${text}: this is no address of a queue; it looks like redis://127.0.0.1:6379`,
  );
}

/**
 * Connects to a queue. Where it is gone later, what is said to it waits until it is back.
 *
 * @throws Refused where it is not there now
 */
export async function connect(address: string, tell: (text: string) => void): Promise<Redis> {
  const url = urlOf(address);
  const redis = new Redis(address, {
    lazyConnect: true,
    maxRetriesPerRequest: null,
    retryStrategy: (times) => Math.min(AGAIN, 100 * times),
  });
  let why = '';
  redis.on('error', (error: Error) => (why = error.message || String(error)));
  try {
    await new Promise<void>((resolve, reject) => {
      redis.once('error', reject);
      redis.connect().then(() => {
        redis.off('error', reject);
        resolve();
      }, reject);
    });
  } catch {
    redis.disconnect();
    throw new Refused(
      `There is no queue at ${shown(url)} (${why}). Start Redis there, or leave --queue out.`,
    );
  }
  // Once for each time that it is gone.
  let gone = false;
  redis.on('close', () => {
    if (gone || redis.status === 'end') return;
    gone = true;
    tell(`The queue at ${shown(url)} is gone; it is waited for.`);
  });
  redis.on('ready', () => {
    if (gone) tell(`The queue at ${shown(url)} is back.`);
    gone = false;
  });
  return redis;
}
