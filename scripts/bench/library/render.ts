import * as THREE from 'three';
import { EffectComposer } from 'three/addons/postprocessing/EffectComposer.js';
import { OutputPass } from 'three/addons/postprocessing/OutputPass.js';
import type { Pass } from 'three/addons/postprocessing/Pass.js';
import { RenderPass } from 'three/addons/postprocessing/RenderPass.js';
import { best } from '../report';

export interface Size {
  width: number;
  height: number;
}

const FRAMES = 12;

/**
 * The least milliseconds that the 3D library takes for a frame. With passes it is rendered in half
 * floats, and tone and transfer curve come last, as in our finish.
 */
export function rendered(scene: THREE.Scene, { width, height }: Size, passes?: Pass[]): number {
  const canvas = new OffscreenCanvas(width, height) as unknown as HTMLCanvasElement;
  const renderer = new THREE.WebGLRenderer({ canvas });
  renderer.setSize(width, height, false);
  const camera = new THREE.PerspectiveCamera(40, width / height, 0.1, 100);
  camera.position.z = 6;
  const composer = new EffectComposer(renderer);
  composer.setSize(width, height);
  if (passes) {
    renderer.toneMapping = THREE.ReinhardToneMapping;
    for (const pass of [new RenderPass(scene, camera), ...passes, new OutputPass()]) {
      composer.addPass(pass);
    }
  }
  const gl = renderer.getContext();
  const pixel = new Uint8Array(4);
  const least = best(FRAMES, () => {
    if (passes) composer.render();
    else renderer.render(scene, camera);
    // Reading a pixel waits until it is drawn.
    gl.readPixels(0, 0, 1, 1, gl.RGBA, gl.UNSIGNED_BYTE, pixel);
  });
  renderer.dispose();
  return least;
}
