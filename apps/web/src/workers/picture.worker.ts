import type { PictureReply, PictureRequest } from './picture-messages';

/** Draws a picture smaller and packs it as JPEG, out of the way of the page. */
self.onmessage = ({ data }: MessageEvent<PictureRequest>): void => {
  shrink(data)
    .then((reply) => self.postMessage(reply))
    .catch(() => self.postMessage({ id: data.id, failed: true } satisfies PictureReply));
};

async function shrink({ id, picture, longestPx, quality }: PictureRequest): Promise<PictureReply> {
  const bitmap = await createImageBitmap(picture);
  const scale = Math.min(1, longestPx / Math.max(bitmap.width, bitmap.height));
  const [width, height] = [bitmap.width, bitmap.height].map((px) => Math.max(1, Math.round(px * scale))) as [
    number,
    number,
  ];
  const canvas = new OffscreenCanvas(width, height);
  const context = canvas.getContext('2d');
  if (!context) return { id, failed: true };
  // What is transparent becomes paper: JPEG has no transparency.
  context.fillStyle = '#fff';
  context.fillRect(0, 0, width, height);
  context.imageSmoothingQuality = 'high';
  context.drawImage(bitmap, 0, 0, width, height);
  const smaller = await canvas.convertToBlob({ type: 'image/jpeg', quality });
  return { id, smaller, width, height, fromWidth: bitmap.width, fromHeight: bitmap.height };
}
