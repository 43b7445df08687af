import type { ReactElement } from 'react';
import { renderToStaticMarkup } from 'react-dom/server';
import { Provider } from 'react-redux';
import type { Camera } from '../src/camera/camera';
import { EngineClient } from '../src/engine/client';
import { EngineContext } from '../src/engine/EngineContext';
import type { LiveInputs } from '../src/inputs';
import { LiveContext } from '../src/inputs/LiveContext';
import type { Joints } from '../src/joints/joints';
import type { Microphone } from '../src/sound/microphone';
import { store } from '../src/store/store';

/** An input that nobody has opened. */
const closed = {
  state: { state: 'closed', devices: [], device: '', recording: null, problem: null },
  subscribe: () => () => undefined,
};

const inputs: LiveInputs = {
  sounds: closed as unknown as Microphone,
  pictures: closed as unknown as Camera,
  performers: { ...closed, told: () => () => undefined, heard: null } as unknown as Joints,
};

/** A view of the open piece, as the artist gets it. */
export function shown(view: ReactElement): string {
  return renderToStaticMarkup(
    <Provider store={store}>
      <EngineContext value={new EngineClient('cpu', {})}>
        <LiveContext value={inputs}>{view}</LiveContext>
      </EngineContext>
    </Provider>,
  );
}
