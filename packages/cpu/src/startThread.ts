/** A helping thread, wherever we run. */
export interface Helper {
  end(): void;
}

/** Starts a script as a worker and waits until it says that it is ready. */
export async function startThread(source: string, start: unknown): Promise<Helper> {
  return typeof Worker === 'function' ? inBrowser(source, start) : inNode(source, start);
}

function inBrowser(source: string, start: unknown): Promise<Helper> {
  return new Promise((resolve, reject) => {
    const url = URL.createObjectURL(new Blob([source], { type: 'text/javascript' }));
    const worker = new Worker(url);
    worker.onmessage = () => {
      URL.revokeObjectURL(url);
      resolve({
        end: () => {
          worker.terminate();
        },
      });
    };
    worker.onerror = (event) => {
      reject(new Error(event.message));
    };
    worker.postMessage(start);
  });
}

async function inNode(source: string, start: unknown): Promise<Helper> {
  // Named so that bundlers for the browser leave it alone.
  const name = 'node:worker_threads';
  const { Worker: Thread } = (await import(
    /* @vite-ignore */ name
  )) as typeof import('node:worker_threads');
  return new Promise((resolve, reject) => {
    const worker = new Thread(source, { eval: true });
    worker.once('message', () => {
      // A waiting helper is no reason to keep the process.
      worker.unref();
      resolve({ end: () => void worker.terminate() });
    });
    worker.once('error', reject);
    worker.postMessage(start);
  });
}
