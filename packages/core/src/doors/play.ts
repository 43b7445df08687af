/** Running a plan: steps of an engine, playback of any frame, counts of visible particles. */

export { type BodyDevice, drawBodies } from '../play/bodies';
export { census, type Census, project } from '../play/census';
export type { Engine, LiveEngine, Snapshot } from '../play/engine';
export { Past } from '../play/knownHistory';
export { mediumCensus, type MediumCensus } from '../play/mediumCensus';
export { drawInputs, momentsOf, sceneInputs, type SceneInputs } from '../play/moments';
export {
  isStored,
  jumpTo,
  type MotionDevice,
  replayTo,
  stepMotion,
  storedAt,
} from '../play/motion';
export { type Particles, particlesOf } from '../play/particles';
export { Playback } from '../play/playback';
export { TrackNotReady, TrackReader } from '../play/trackReader';
