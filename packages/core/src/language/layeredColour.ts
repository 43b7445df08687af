import { mix, Vec3, type Expr } from '@vast-swarm/kernel';
import { blendChannel, blendLayers } from '../feeds/blend';
import type { ColourLayer, LayerReading, LayersFeed } from '../feeds/colourLayers';
import type { FrameFeed, GradientFeed } from '../feeds/feeds';
import { luminance } from '../feeds/luminance';
import type { BirthScope, KernelBuilder } from './builder';
import { partOf, type Name } from './names';
import type { ParticleInputs } from './particle';
import { pictureSample, sampledSize } from './pictureSample';

/** The reader of dials that layers need. */
interface Reader {
  readonly builder: KernelBuilder;
  readonly particle: ParticleInputs | null;
  random(purpose: string): Expr;
  readingOf(name: LayerReading): Expr;
  formulaValue(text: string): Expr;
  frameFed(name: Name, feed: FrameFeed): Expr;
  ramp(name: Name, stops: GradientFeed['stops'], at: Expr): Vec3;
  placeColour(): Vec3;
  colourAs(swarm: string): Vec3 | null;
  keepVec(name: 'home', find: (birth: BirthScope) => Vec3): Vec3;
}

/**
 * The colour that layers make of a particle, in linear light.
 *
 * @param key of the dial, for what is random about it
 */
export function layeredColour(dial: Reader, name: Name, key: string, feed: LayersFeed): Vec3 {
  const g = dial.builder.graph;
  const layers = feed.layers.map((layer, i) => {
    const own = partOf(name, String(i));
    const amount = dial.builder.uniform(partOf(own, 'amount'), layer.amount);
    return { layer, own, amount, value: valueOf(dial, own, `${key}.${String(i)}`, layer) };
  });
  if (feed.as === 'greys') {
    const sum = layers.reduce<Expr>((below, { layer, value, amount }) => {
      const own = value instanceof Vec3 ? luminance(value) : value;
      return mix(below, blendChannel(layer.over, below, own), amount);
    }, g.float(0));
    return dial.ramp(name, feed.stops, sum);
  }
  const black = new Vec3(g.float(0), g.float(0), g.float(0));
  return layers.reduce((below, { layer, own, value, amount }) => {
    const colour = value instanceof Vec3 ? value : dial.ramp(own, layer.stops ?? feed.stops, value);
    const over = blendLayers(layer.over, below, colour);
    return below.scale(g.float(1).sub(amount)).add(over.scale(amount));
  }, black);
}

/** A layer's value, 0 to 1, or its colour where it brings one. */
function valueOf(dial: Reader, name: Name, purpose: string, layer: ColourLayer): Expr | Vec3 {
  const { builder } = dial;
  const g = builder.graph;
  switch (layer.by) {
    case 'life':
      return dial.particle?.life ?? g.float(0);
    case 'random':
      return dial.random(purpose);
    case 'reading': {
      const value = dial.readingOf(layer.reading ?? 'speed');
      const [from, to] = [layer.from ?? 0, layer.to ?? 1];
      const scale = builder.uniform(partOf(name, 'scale'), 1 / (to - from || 1));
      return value
        .sub(builder.uniform(partOf(name, 'from'), from))
        .mul(scale)
        .clamp(0, 1);
    }
    case 'formula':
      return dial.formulaValue(layer.text ?? 'lived').clamp(0, 1);
    case 'signal':
      if (!layer.signal) return g.float(0);
      return dial
        .frameFed(name, { feed: 'signal', signal: layer.signal, from: 0, to: 1 })
        .clamp(0, 1);
    case 'place':
      return dial.placeColour();
    case 'picture':
      return pictureColour(dial, layer) ?? g.float(0);
    case 'swarm':
      return dial.colourAs(layer.swarm ?? '') ?? new Vec3(g.float(1), g.float(1), g.float(1));
  }
}

function pictureColour(dial: Reader, layer: ColourLayer): Vec3 | null {
  const { builder, particle } = dial;
  const picture = builder.scene.picture(layer.picture ?? '');
  if (!picture) return null;
  const { width, height } = sampledSize(picture);
  const zero = builder.graph.float(0);
  const place =
    layer.at === 'birth'
      ? dial.keepVec('home', (birth) => birth.position)
      : (particle?.readings?.position ?? new Vec3(zero, zero, zero));
  const pixels = height / (layer.size ?? 2);
  const x = place.x.mul(pixels).add(width / 2);
  const y = place.y.mul(-pixels).add(height / 2);
  return pictureSample(builder, picture, x, y).colour;
}
