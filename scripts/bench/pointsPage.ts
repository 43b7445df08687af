import { makePiece, compilePiece, makeSwarm, makePart } from '@vast-swarm/core';
import { CpuEngine } from '@vast-swarm/cpu';
import * as THREE from 'three';

/** 50,000 soft discs of five pixels, added, at 960×540: our CPU engine, and a 3D library's points. */
const [COUNT, WIDTH, HEIGHT, FRAMES] = [50_000, 960, 540, 12];

async function ours(): Promise<number> {
  const engine = await CpuEngine.create({ threads: 2 });
  const piece = makePiece('Points');
  piece.frame = { width: WIDTH, height: HEIGHT, rate: 30, length: 100, preroll: 0 };
  const swarm = makeSwarm('box', []);
  const focal = HEIGHT / 2 / Math.tan((20 * Math.PI) / 180);
  Object.assign(swarm.emitter.dials, { size: [7, 4, 0.01] });
  Object.assign(swarm.launch.dials, { speed: 0 });
  Object.assign(swarm.dials, {
    rate: 0,
    burst: COUNT,
    lifetime: 100,
    opacity: 0.5,
    size: (5 * 6) / focal,
  });
  piece.camera.dials.elevation = 0;
  piece.swarms.push(swarm);
  piece.finish = [makePart('finish', 'exposure', [])];
  engine.setPlan(compilePiece(piece));
  engine.step();
  let least = Infinity;
  for (let i = 0; i < FRAMES; i++) {
    engine.draw(WIDTH, HEIGHT);
    least = Math.min(least, engine.times.look + engine.times.draw);
  }
  engine.close();
  return least;
}

function library(): number {
  const places = Float32Array.from(
    { length: 3 * COUNT },
    (_, i) => (Math.random() - 0.5) * [7, 4, 0.01][i % 3]!,
  );
  const geometry = new THREE.BufferGeometry().setAttribute(
    'position',
    new THREE.BufferAttribute(places, 3),
  );
  const sprite = new Uint8Array(32 * 32 * 4);
  for (let i = 0; i < 32 * 32; i++) {
    const d = ((i % 32) - 15.5) ** 2 + (Math.floor(i / 32) - 15.5) ** 2;
    sprite.fill(255 * Math.max(0, 1 - d / 256) ** 2, 4 * i, 4 * i + 4);
  }
  const map = new THREE.DataTexture(sprite, 32, 32);
  map.needsUpdate = true;
  const material = new THREE.PointsMaterial({
    size: 5,
    sizeAttenuation: false,
    map,
    blending: THREE.AdditiveBlending,
    transparent: true,
    depthTest: false,
    depthWrite: false,
    opacity: 0.5,
  });
  return rendered(new THREE.Scene().add(new THREE.Points(geometry, material)));
}

/** The least time in milliseconds that the library takes for a frame. */
function rendered(scene: THREE.Scene): number {
  const canvas = new OffscreenCanvas(WIDTH, HEIGHT) as unknown as HTMLCanvasElement;
  const renderer = new THREE.WebGLRenderer({ canvas });
  renderer.setSize(WIDTH, HEIGHT, false);
  const camera = new THREE.PerspectiveCamera(40, WIDTH / HEIGHT, 0.1, 100);
  camera.position.z = 6;
  const gl = renderer.getContext();
  const pixel = new Uint8Array(4);
  let least = Infinity;
  for (let i = 0; i < FRAMES; i++) {
    const start = performance.now();
    renderer.render(scene, camera);
    // Reading a pixel waits until it is drawn.
    gl.readPixels(0, 0, 1, 1, gl.RGBA, gl.UNSIGNED_BYTE, pixel);
    least = Math.min(least, performance.now() - start);
  }
  renderer.dispose();
  return least;
}

/** Lit cubes: ours as mesh copies, the library's as one instanced mesh. */
async function cubes(count: number): Promise<{ ours: number; library: number }> {
  const engine = await CpuEngine.create({ threads: 2 });
  const piece = makePiece('Cubes');
  piece.frame = { width: WIDTH, height: HEIGHT, rate: 30, length: 100, preroll: 0 };
  const swarm = makeSwarm('box', []);
  Object.assign(swarm.emitter.dials, { size: [7, 4, 2] });
  Object.assign(swarm.dials, { rate: 0, burst: count, lifetime: 100, opacity: 1, size: 0.05 });
  swarm.bodies = [makePart('bodies', 'mesh', [])];
  Object.assign(swarm.bodies[0]!.dials, { mode: 'opaque', facing: 'random' });
  piece.swarms.push(swarm);
  piece.finish = [];
  engine.setPlan(compilePiece(piece));
  engine.step();
  let ours = Infinity;
  for (let i = 0; i < FRAMES; i++) {
    engine.draw(WIDTH, HEIGHT);
    ours = Math.min(ours, engine.times.look + engine.times.draw);
  }
  engine.close();

  const material = new THREE.MeshLambertMaterial();
  const mesh = new THREE.InstancedMesh(new THREE.BoxGeometry(0.05, 0.05, 0.05), material, count);
  const place = new THREE.Object3D();
  for (let i = 0; i < count; i++) {
    const at = (size: number): number => (Math.random() - 0.5) * size;
    place.position.set(at(7), at(4), at(2));
    place.rotation.set(at(6), at(6), at(6));
    place.updateMatrix();
    mesh.setMatrixAt(i, place.matrix);
  }
  const lamp = new THREE.DirectionalLight();
  lamp.position.set(-0.45, 0.65, 0.61);
  const scene = new THREE.Scene().add(mesh, lamp, new THREE.AmbientLight(0x223333));
  return { ours, library: rendered(scene) };
}

self.onmessage = async () => {
  try {
    postMessage({
      ours: await ours(),
      library: library(),
      few: await cubes(1000),
      many: await cubes(100_000),
    });
  } catch (error) {
    postMessage({ error: String(error) });
  }
};
