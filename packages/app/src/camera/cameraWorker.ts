import { transfer } from 'comlink';
import { exposeWorker } from '../workers/exposeWorker';
import { coderFor, type Coder } from './coder';

/** Bytes of a take at the most: the stock takes no larger files. */
const MOST_BYTES = 480 * 2 ** 20;

export interface CameraWorker {
  /**
   * Makes ready for pictures of a size. What comes out at the port are pictures, one for each `next` that came in
   * there: each as it will be decoded from the take.
   *
   * @param trouble is told why no more will come
   * @throws Error where the browser cannot write video
   */
  begin: (
    width: number,
    height: number,
    port: MessagePort,
    trouble: (message: string) => void,
  ) => Promise<void>;
  /** The newest picture; the one before it counts no more. */
  see: (bitmap: ImageBitmap) => void;
  /**
   * A take of the first pictures that came out, each from its frame on, so many frames a second.
   * @returns a WebM file
   */
  take: (begins: readonly number[], rate: number) => Promise<Uint8Array<ArrayBuffer>>;
}

let coder: Coder | null = null;
let newest: ImageBitmap | null = null;
let wanted: MessagePort | null = null;
let told: (message: string) => void = () => undefined;

/** Answers what was asked for as soon as there is a picture that was not given yet. */
async function answer(): Promise<void> {
  if (!coder || !wanted || !newest) return;
  const [port, bitmap] = [wanted, newest];
  [wanted, newest] = [null, null];
  try {
    if (coder.bytes > MOST_BYTES) throw new Error('a take has 480 MB at the most');
    const picture = await coder.code(bitmap);
    port.postMessage(picture, [picture.pixels.buffer as ArrayBuffer]);
  } catch (error) {
    told(error instanceof Error ? error.message : String(error));
  } finally {
    bitmap.close();
  }
}

const worker: CameraWorker = {
  async begin(width, height, port, trouble) {
    coder?.close();
    [newest, wanted, told] = [null, null, trouble];
    coder = await coderFor(width, height);
    port.onmessage = () => {
      wanted = port;
      void answer();
    };
  },
  see(bitmap) {
    newest?.close();
    newest = bitmap;
    void answer();
  },
  async take(begins, rate) {
    const bytes = await coder!.file(begins, rate);
    return transfer(bytes, [bytes.buffer]);
  },
};
exposeWorker(worker);
