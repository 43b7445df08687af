import { mix, Vec3, type Expr } from '@vast-swarm/kernel';
import { luminance } from '../feeds/luminance';
import { blendChannel, blendLayers } from '../feeds/blend';
import type { ColourLayer, LayersFeed } from '../feeds/colourLayers';
import { inEffect } from '../piece/follow';
import { swarmDials } from '../catalogue/swarmDials';
import { DialReader } from './dialReader';
import { pictureSample, sampledSize } from './pictureSample';

/** The colour that layers make of a particle, in linear light. */
export function layeredColour(dial: DialReader, name: string, feed: LayersFeed): Vec3 {
  const g = dial.graph;
  if (feed.as === 'greys') {
    const sum = feed.layers.reduce<Expr>((below, layer, i) => {
      const value = valueOf(dial, `${name}.${String(i)}`, layer);
      const own = value instanceof Vec3 ? luminance(value) : value;
      return mix(below, blendChannel(layer.over, below, own), amountOf(dial, name, layer, i));
    }, g.float(0));
    return dial.ramp(name, feed.stops, sum);
  }
  const black = new Vec3(g.float(0), g.float(0), g.float(0));
  return feed.layers.reduce((below, layer, i) => {
    const layerName = `${name}.${String(i)}`;
    const value = valueOf(dial, layerName, layer);
    const own =
      value instanceof Vec3 ? value : dial.ramp(layerName, layer.stops ?? feed.stops, value);
    const amount = amountOf(dial, name, layer, i);
    const over = blendLayers(layer.over, below, own);
    return below.scale(g.float(1).sub(amount)).add(over.scale(amount));
  }, black);
}

function amountOf(dial: DialReader, name: string, layer: ColourLayer, i: number): Expr {
  return dial.builder.uniform(`${name}.${String(i)}.amount`, layer.amount);
}

/** A layer's value, 0 to 1, or its colour where it brings one. */
function valueOf(dial: DialReader, name: string, layer: ColourLayer): Expr | Vec3 {
  const g = dial.graph;
  const white = new Vec3(g.float(1), g.float(1), g.float(1));
  switch (layer.by) {
    case 'life':
      return dial.particle?.life ?? g.float(0);
    case 'random':
      return dial.random(name.slice(dial.scope.length + 1));
    case 'reading': {
      const value = dial.readingOf(layer.reading ?? 'speed');
      const [from, to] = [layer.from ?? 0, layer.to ?? 1];
      const scale = dial.builder.uniform(`${name}.scale`, 1 / (to - from || 1));
      return value
        .sub(dial.builder.uniform(`${name}.from`, from))
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
      return swarmColour(dial, layer) ?? white;
  }
}

function pictureColour(dial: DialReader, layer: ColourLayer): Vec3 | null {
  const picture = dial.builder.scene.stock(layer.picture ?? '');
  if (picture?.type !== 'picture') return null;
  const { width, height } = sampledSize(picture);
  const home = (axis: 'x' | 'y'): Expr =>
    dial.keep(`home.${axis}`, (birth) => birth.position[axis]);
  const now = (axis: 'x' | 'y'): Expr =>
    dial.particle?.readings?.position[axis] ?? dial.graph.float(0);
  const at = layer.at === 'birth' ? home : now;
  const pixels = height / (layer.size ?? 2);
  const x = at('x')
    .mul(pixels)
    .add(width / 2);
  const y = at('y')
    .mul(-pixels)
    .add(height / 2);
  return pictureSample(dial.builder, picture, x, y).colour;
}

/** What the other swarm's colour would be for this particle; its own layers of swarms are left out. */
function swarmColour(dial: DialReader, layer: ColourLayer): Vec3 | null {
  const { scene } = dial.builder;
  const found = scene.piece.swarms.find((s) => s.id === layer.swarm);
  if (!found) return null;
  const { id, dials } = inEffect(scene.piece, found);
  const { colour } = dials;
  const nested = typeof colour === 'object' && 'layers' in colour;
  if (nested && colour.layers.some((l) => l.by === 'swarm')) return null;
  const other = new DialReader(dial.builder, `${id}.swarm`, swarmDials, dials, dial.particle);
  return other.colour('colour').scale(other.number('light'));
}
