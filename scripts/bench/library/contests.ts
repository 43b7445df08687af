import { makePart, type Piece } from '@vast-swarm/core/piece';
import * as THREE from 'three';
import { LineMaterial } from 'three/addons/lines/LineMaterial.js';
import { LineSegments2 } from 'three/addons/lines/LineSegments2.js';
import { LineSegmentsGeometry } from 'three/addons/lines/LineSegmentsGeometry.js';
import { AfterimagePass } from 'three/addons/postprocessing/AfterimagePass.js';
import { FilmPass } from 'three/addons/postprocessing/FilmPass.js';
import { HalftonePass } from 'three/addons/postprocessing/HalftonePass.js';
import type { Pass } from 'three/addons/postprocessing/Pass.js';
import { ShaderPass } from 'three/addons/postprocessing/ShaderPass.js';
import { UnrealBloomPass } from 'three/addons/postprocessing/UnrealBloomPass.js';
import { HorizontalBlurShader } from 'three/addons/shaders/HorizontalBlurShader.js';
import { RGBShiftShader } from 'three/addons/shaders/RGBShiftShader.js';
import { SobelOperatorShader } from 'three/addons/shaders/SobelOperatorShader.js';
import { VerticalBlurShader } from 'three/addons/shaders/VerticalBlurShader.js';
import { VignetteShader } from 'three/addons/shaders/VignetteShader.js';
import { crowd } from '../crowd';
import type { Size } from './render';

/** The same picture, or one as costly, by our CPU engine and by a 3D library. */
export interface Contest {
  name: string;
  size: Size;
  ours: Piece;
  /** Frames that are simulated before any is drawn; 0 unless something has to come about. */
  after: number;
  /** Whether our finish is timed, and not the drawing. */
  finish: boolean;
  scene: () => THREE.Scene;
  passes?: () => Pass[];
}

const HALF: Size = { width: 960, height: 540 };
const FULL: Size = { width: 1280, height: 720 };
/** Pixels of a metre at 6 m, by the height of the frame. */
const zoom = ({ height }: Size): number => height / 2 / Math.tan((20 * Math.PI) / 180) / 6;

const within = (size: readonly number[]): number[] => size.map((s) => (Math.random() - 0.5) * s);

function points(): Contest {
  const count = 50_000;
  const ours = crowd(count, (p) => {
    const swarm = p.swarms[0]!;
    Object.assign(swarm.emitter.dials, { size: [7, 4, 0.01] });
    swarm.dials.size = 5 / zoom(HALF);
  });
  const scene = (): THREE.Scene => {
    const places = Array.from({ length: count }, () => within([7, 4, 0.01])).flat();
    const geometry = new THREE.BufferGeometry();
    geometry.setAttribute('position', new THREE.Float32BufferAttribute(places, 3));
    const sprite = new Uint8Array(32 * 32 * 4);
    for (let i = 0; i < 32 * 32; i++) {
      const d = ((i % 32) - 15.5) ** 2 + (Math.floor(i / 32) - 15.5) ** 2;
      sprite.fill(255 * Math.max(0, 1 - d / 256) ** 2, 4 * i, 4 * i + 4);
    }
    const map = new THREE.DataTexture(sprite, 32, 32);
    map.needsUpdate = true;
    const material = new THREE.PointsMaterial({ size: 5, sizeAttenuation: false, map, ...ADDED });
    return new THREE.Scene().add(new THREE.Points(geometry, material));
  };
  const name = '50000 soft discs of 5 pixels added at 960x540, against point sprites';
  return { name, size: HALF, ours, after: 0, finish: false, scene };
}

const ADDED = {
  transparent: true,
  opacity: 0.5,
  depthTest: false,
  depthWrite: false,
  blending: THREE.AdditiveBlending,
} as const;

function cubes(count: number): Contest {
  const ours = crowd(count, (p) => {
    p.swarms[0]!.bodies = [makePart('bodies', 'mesh', [])];
    Object.assign(p.swarms[0]!.bodies[0]!.dials, { mode: 'opaque', facing: 'random' });
    p.swarms[0]!.dials.opacity = 1;
  });
  const scene = (): THREE.Scene => {
    const material = new THREE.MeshLambertMaterial();
    const mesh = new THREE.InstancedMesh(new THREE.BoxGeometry(0.05, 0.05, 0.05), material, count);
    const place = new THREE.Object3D();
    for (let i = 0; i < count; i++) {
      place.position.fromArray(within([7, 4, 2]));
      place.rotation.fromArray(within([6, 6, 6]) as [number, number, number]);
      place.updateMatrix();
      mesh.setMatrixAt(i, place.matrix);
    }
    const lamp = new THREE.DirectionalLight();
    lamp.position.set(-0.45, 0.65, 0.61);
    return new THREE.Scene().add(mesh, lamp, new THREE.AmbientLight(0x223333));
  };
  const name = `${count.toLocaleString('en-GB')} lit cubes at 960x540, against an instanced mesh`;
  return { name, size: HALF, ours, after: 0, finish: false, scene };
}

/** Lines two pixels wide, from pairs of places. */
function lines(places: number[]): THREE.Scene {
  const geometry = new LineSegmentsGeometry().setPositions(places);
  const material = new LineMaterial({ linewidth: 2, ...ADDED });
  return new THREE.Scene().add(new LineSegments2(geometry, material));
}

/** Forty thousand lines: we also search for the pairs, the library is given them. */
function links(): Contest {
  const [count, radius, box] = [2000, 0.55, [4, 3, 2]] as const;
  const ours = crowd(count, (p) => {
    p.swarms[0]!.emitter.dials.size = [...box];
    p.swarms[0]!.bodies = [makePart('bodies', 'links', [])];
    p.swarms[0]!.dials.size = 2 / zoom(FULL);
    Object.assign(p.swarms[0]!.bodies[0]!.dials, { radius, most: 64, total: 500_000, width: 1 });
  });
  const scene = (): THREE.Scene => {
    const places = Array.from({ length: count }, () => new THREE.Vector3(...within(box)));
    const near = places.flatMap((a, i) =>
      places.slice(i + 1).flatMap((b) => (a.distanceTo(b) < radius ? [...a, ...b] : [])),
    );
    return lines(near);
  };
  const name = 'links of 2,000 particles, all within a radius, against as many lines given';
  return { name, size: FULL, ours, after: 0, finish: false, scene };
}

function trails(): Contest {
  const [count, frames] = [10_000, 60];
  const ours = crowd(count, (p) => {
    p.swarms[0]!.bodies = [makePart('bodies', 'trail', [])];
    Object.assign(p.swarms[0]!.bodies[0]!.dials, { length: frames });
    p.swarms[0]!.dials.size = 2 / zoom(FULL);
    p.forces.push(makePart('forces', 'curlNoise', []));
  });
  const scene = (): THREE.Scene => {
    const step = 0.8 / 30;
    const places: number[] = [];
    for (let i = 0; i < count; i++) {
      const at = new THREE.Vector3(...within([7, 4, 2]));
      const way = new THREE.Vector3().randomDirection();
      for (let k = 0; k < frames; k++) {
        places.push(...at);
        way.addScaledVector(new THREE.Vector3().randomDirection(), 0.2).normalize();
        places.push(...at.addScaledVector(way, step));
      }
    }
    return lines(places);
  };
  const name = '10,000 trails of 60 frames, against as many lines given';
  return { name, size: FULL, ours, after: frames, finish: false, scene };
}

/** One treatment over a few discs, with tone and transfer curve. */
function treatment(kind: string, passes: () => Pass[]): Contest {
  const few = (p: Piece): void => {
    p.finish = [makePart('finish', kind, []), makePart('finish', 'exposure', [])];
  };
  const scene = (): THREE.Scene => {
    const map = new THREE.DataTexture(Uint8Array.from([255, 200, 90, 255]), 1, 1);
    map.needsUpdate = true;
    const sprites = Array.from({ length: 50 }, () => {
      const sprite = new THREE.Sprite(new THREE.SpriteMaterial({ map }));
      sprite.position.fromArray(within([7, 4, 2]));
      return sprite;
    });
    return new THREE.Scene().add(...sprites);
  };
  const name = `finish ${kind} with tone and encoding, against a pass of the library`;
  return { name, size: FULL, ours: crowd(50, few), after: 0, finish: true, scene, passes };
}

const shader = (...shaders: ConstructorParameters<typeof ShaderPass>[0][]): Pass[] =>
  shaders.map((s) => new ShaderPass(s));

export const CONTESTS: readonly (() => Contest)[] = [
  points,
  () => cubes(1000),
  () => cubes(100_000),
  links,
  trails,
  () =>
    treatment('bloom', () => [
      new UnrealBloomPass(new THREE.Vector2(FULL.width, FULL.height), 0.5, 0.4, 0.2),
    ]),
  () => treatment('blur', () => shader(HorizontalBlurShader, VerticalBlurShader)),
  () => treatment('feedback', () => [new AfterimagePass(0.9)]),
  () => treatment('edges', () => shader(SobelOperatorShader)),
  () => treatment('aberration', () => shader(RGBShiftShader)),
  () => treatment('halftone', () => [new HalftonePass({})]),
  () => treatment('vignette', () => shader(VignetteShader)),
  () => treatment('grain', () => [new FilmPass(0.3)]),
];
