import { offerMade, type Maker } from '../../stock/makers';
import { bellBreath } from './bellBreath';
import { buoy } from './buoy';
import { chart } from './chart';
import { conch } from './conch';
import { crystal } from './crystal';
import { dancer } from './dancer';
import { dusk } from './dusk';
import { ferry } from './ferry';
import { flags } from './flags';
import { fogSignal } from './fogSignal';
import { harbourMark } from './harbourMark';
import { lamps } from './lamps';
import { pierDancers } from './pierDancers';
import { quay } from './quay';
import { rope } from './rope';
import { slipway } from './slipway';
import { wanderingLight } from './wanderingLight';

/** Things of the stock that are made by code, for the demo show and for trying things out. */
const CONTENT: Record<string, Maker> = {
  conch: { title: 'Conch', type: 'mesh', make: conch },
  buoy: { title: 'Buoy', type: 'mesh', make: buoy },
  slipway: { title: 'Slipway', type: 'mesh', make: slipway },
  crystal: { title: 'Salt crystal', type: 'mesh', make: crystal },
  chart: { title: 'Tide chart', type: 'picture', make: chart },
  flags: { title: 'Signal flags', type: 'picture', make: flags },
  rope: { title: 'Rope', type: 'outline', make: rope },
  harbourMark: { title: 'Harbour mark', type: 'outline', make: harbourMark },
  lamps: { title: 'Quay lamps', type: 'cloud', make: lamps },
  dusk: { title: 'Harbour dusk', type: 'table', make: dusk },
  fogSignal: { title: 'Fog signal', type: 'sound', make: fogSignal },
  bellBreath: { title: 'Bell and breath', type: 'sound', make: bellBreath },
  ferry: { title: 'Passing ferries', type: 'clip', make: ferry },
  quay: { title: 'The quay, evening', type: 'picture', make: quay },
  dancer: { title: 'Dancer', type: 'clip', make: dancer },
  pierDancers: { title: 'Two dancers', type: 'motion', make: pierDancers },
  wanderingLight: { title: 'Wandering light', type: 'clip', make: wanderingLight },
};
for (const [name, maker] of Object.entries(CONTENT)) offerMade(name, maker);

/** Their names. */
export const MADE: readonly string[] = Object.keys(CONTENT);
