import { Listeners } from './listeners';

/** How it stands with the server: not asked, looked for, there, or gone and looked for again. */
export type LinkState = 'off' | 'opening' | 'open' | 'lost';

/** Milliseconds after which a lost server is looked for again. */
const AGAIN = 1000;

interface Hears {
  /** The server is there: it knows nothing yet. */
  opened?: () => void;
  heard?: (data: string | ArrayBuffer) => void;
  /** It is there no longer, or not wanted any more. */
  closed?: () => void;
}

/** A socket at an address of the server of the page; where it is lost, it is looked for again and again. */
export class ServerLink {
  state: LinkState = 'off';
  private readonly watchers = new Listeners();
  readonly told = this.watchers.add;
  private socket: WebSocket | null = null;

  constructor(
    private readonly path: string,
    private readonly hears: Hears,
  ) {}

  private put(state: LinkState): void {
    this.state = state;
    this.watchers.tell();
  }

  open(): void {
    if (this.socket) return;
    this.put(this.state === 'lost' ? 'lost' : 'opening');
    const url = new URL(`${this.path}${location.search}`, location.href);
    url.protocol = url.protocol.replace('http', 'ws');
    const socket = new WebSocket(url);
    this.socket = socket;
    socket.binaryType = 'arraybuffer';
    socket.onopen = () => {
      if (this.socket !== socket) return;
      this.hears.opened?.();
      this.put('open');
    };
    socket.onmessage = ({ data }: MessageEvent<string | ArrayBuffer>) => {
      if (this.socket === socket) this.hears.heard?.(data);
    };
    socket.onclose = () => {
      if (this.socket !== socket) return;
      this.release();
      this.put('lost');
      setTimeout(() => {
        if (this.state === 'lost') this.open();
      }, AGAIN);
    };
  }

  private release(): void {
    this.socket = null;
    this.hears.closed?.();
  }

  close(): void {
    const { socket } = this;
    this.release();
    socket?.close();
    if (this.state !== 'off') this.put('off');
  }

  /** Bytes that the server has not taken yet; more than there are where it is not there. */
  get behind(): number {
    const { socket } = this;
    return socket?.readyState === WebSocket.OPEN ? socket.bufferedAmount : Infinity;
  }

  /** Sends something, where the server is there. */
  send(data: string | Uint8Array<ArrayBuffer>): void {
    if (this.socket?.readyState === WebSocket.OPEN) this.socket.send(data);
  }
}
