/** Of what is drawn into: light, and depths of opaque things. */
export const TARGET_FORMAT: GPUTextureFormat = 'rgba16float';
export const DEPTH_FORMAT: GPUTextureFormat = 'depth32float';
