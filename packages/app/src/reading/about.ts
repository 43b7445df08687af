import { boundsOf, lengthOf, pointsOf, secondsOf, type StockData } from '@vast-swarm/core/stock';

const count = (n: number): string => n.toLocaleString('en-GB');

function boundsText(points: Float32Array): string {
  const [low, high] = boundsOf(points);
  return high.map((h, i) => (h - low[i]!).toPrecision(3)).join(' × ');
}

/** A thing of the stock in words. */
export function aboutStock(data: StockData): string {
  switch (data.type) {
    case 'picture':
      return `${String(data.width)} × ${String(data.height)} pixels`;
    case 'clip': {
      const [size, seconds] = [
        `${String(data.width)} × ${String(data.height)}`,
        data.times.at(-1)!,
      ];
      const many = count(data.times.length - 1);
      return `${size} pixels, ${many} pictures, ${seconds.toFixed(2)} s${data.sound ? ', with sound' : ''}`;
    }
    case 'motion': {
      const who = data.performers.length;
      const joints = data.performers.reduce((sum, p) => sum + p.joints.length, 0);
      const seconds = data.times.at(-1)!.toFixed(2);
      return `${count(who)} ${who === 1 ? 'performer' : 'performers'}, ${count(joints)} joints, ${seconds} s`;
    }
    case 'font':
      return `${data.family}, ${count(data.letters)} letters`;
    case 'sound': {
      const kind = data.channels.length > 1 ? 'stereo' : 'mono';
      return `${secondsOf(data).toFixed(2)} s, ${kind}, ${count(data.rate)} Hz`;
    }
    case 'table':
      return `${count(data.size)} × ${count(data.size)} × ${count(data.size)} colours`;
    case 'outline':
      return `${count(data.curves.length)} curves, length ${lengthOf(data).toPrecision(3)}, ${boundsText(pointsOf(data))}`;
    case 'cloud':
      return `${count(data.positions.length / 3)} points${data.colours ? ' with colours' : ''}, ${boundsText(data.positions)}`;
    case 'mesh':
      return `${count(data.positions.length / 3)} vertices, ${count(data.triangles.length / 3)} faces${data.colours ? ', colours' : ''}, ${boundsText(data.positions)}`;
  }
}
