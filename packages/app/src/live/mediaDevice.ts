import { devicesOf, type Device } from './devices';
import { LiveDevice } from './liveDevice';
import { problemOf } from './problems';

/** An input that the browser gives: permission is asked for. */
export abstract class MediaDevice<Opened> extends LiveDevice<Opened> {
  constructor(
    private readonly kind: 'audioinput' | 'videoinput',
    key: string,
  ) {
    super(key);
  }

  protected listed(): Promise<readonly Device[]> {
    return devicesOf(this.kind);
  }

  protected why(error: unknown): string {
    return problemOf(error, this.kind);
  }
}
