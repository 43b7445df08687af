import type { Plugin } from 'esbuild';

export function ours(folder: string, outside?: boolean): Plugin;
