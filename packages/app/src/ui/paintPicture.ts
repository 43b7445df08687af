import type { Picture } from '@vast-swarm/core/stock';

/** Paints a picture into a rectangle of a canvas, as large as fits and in its middle. */
export async function paintPicture(
  context: CanvasRenderingContext2D,
  { width, height, pixels }: Picture,
  x: number,
  y: number,
  wide: number,
  high: number,
): Promise<void> {
  const bitmap = await createImageBitmap(
    new ImageData(new Uint8ClampedArray(pixels), width, height),
  );
  const scale = Math.min(wide / width, high / height);
  const [w, h] = [width * scale, height * scale];
  context.drawImage(bitmap, x + (wide - w) / 2, y + (high - h) / 2, w, h);
  bitmap.close();
}
