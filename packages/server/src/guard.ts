import { timingSafeEqual } from 'node:crypto';
import type { IncomingMessage } from 'node:http';

/** Names and addresses of this machine: under another a page elsewhere may have come here. */
export const OWN_NAMES = ['127.0.0.1', 'localhost', '[::1]'];
const OWN_ADDRESSES = ['127.0.0.1', '::1', '::ffff:127.0.0.1'];

export function isLoopback(address: string | undefined): boolean {
  return address !== undefined && OWN_ADDRESSES.includes(address);
}

/** Whether two texts are the same, in a time that tells nothing of how far they are. */
function same(a: string, b: string): boolean {
  const [x, y] = [Buffer.from(a), Buffer.from(b)];
  return x.length === y.length && timingSafeEqual(x, y);
}

/** Who may come in: those of this machine, and those who know the token where there is one. */
export class Guard {
  /** Senders of packets who have said the token. */
  private readonly known = new Set<string>();

  /** @param token null where only this machine is listened to */
  constructor(readonly token: string | null) {}

  private knows(given: string | null | undefined): boolean {
    return this.token !== null && typeof given === 'string' && same(given, this.token);
  }

  /**
   * Whether a socket may be opened. Pages of other addresses may not, unless they know the token; what is no
   * browser says no origin.
   *
   * @param anyPort whether a page of this machine may come from any of its ports
   */
  admits(request: IncomingMessage, anyPort: boolean): boolean {
    const { origin, host } = request.headers;
    const query = new URL(request.url ?? '/', 'http://any').searchParams;
    if (this.knows(query.get('token'))) return true;
    if (!isLoopback(request.socket.remoteAddress)) return false;
    if (origin === undefined) return true;
    if (!URL.canParse(origin)) return false;
    const page = new URL(origin);
    return OWN_NAMES.includes(page.hostname) && (anyPort || page.host === host);
  }

  /** Whether packets of a sender are read: of this machine always, of others once they have said the token. */
  hears(address: string, sender: string): boolean {
    return isLoopback(address) || this.known.has(sender);
  }

  /** Somebody says the token; they are not answered, whatever it is. */
  take(sender: string, given: unknown): void {
    if (this.known.size < 1000 && this.knows(typeof given === 'string' ? given : null)) {
      this.known.add(sender);
    }
  }
}
