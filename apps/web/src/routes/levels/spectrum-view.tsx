import { useState } from 'react';
import type { Stretch } from '@mistpeak/core/levels/sound-watch';
import { dbfsOf, type SpectrumShape } from '@mistpeak/core/levels/spectrum';
import { BELL_202 } from '@mistpeak/core/modem/tones';
import type { HeardSound, OnClock } from '../../live/heard-sound';
import type { Inks } from '../../pieces/inks';
import { useWidth } from '../../pieces/width';
import { useDrawing } from './drawing';

const RIDGE = 110;
const FALL = 120;
const HEIGHT = RIDGE + FALL + 18;
const LOWEST = -90;
const UP_TO_HZ = 4000;
/** The ridge is the mean of so many looks. */
const RIDGE_LOOKS = 6;
/** From there to full scale the ink grows. */
const DARKEST = -20;

/** The spectrum as a ridge with the two tones named, and what was before it falling below in one ink. */
export function SpectrumView({ heard, withFall }: { heard: HeardSound; withFall: boolean }) {
  const [box, width] = useWidth();
  const [fall] = useState(() => new Fall());
  const height = withFall ? HEIGHT : RIDGE + 18;
  const ref = useDrawing(heard, width, height, (context, inks) =>
    drawSpectrum(context, inks, heard, width, withFall, fall),
  );
  return (
    <div ref={box}>
      <canvas
        ref={ref}
        style={{ width: '100%', height }}
        className="block"
        role="img"
        aria-label={`Spectrum from 0 to ${UP_TO_HZ} Hz, with the tones of ${BELL_202.markHz} and ${BELL_202.spaceHz} Hz marked.`}
      />
    </div>
  );
}

function drawSpectrum(
  context: CanvasRenderingContext2D,
  inks: Inks,
  heard: HeardSound,
  width: number,
  withFall: boolean,
  fall: Fall,
): void {
  const { shape, stretches } = heard;
  const x = (hz: number): number => (hz / UP_TO_HZ) * width;
  if (shape) drawRidge(context, inks, ridgeOf(heard, shape), shape, x);
  for (const [hz, words] of [
    [BELL_202.markHz, `${BELL_202.markHz} low tone`],
    [BELL_202.spaceHz, `${BELL_202.spaceHz} high tone`],
  ] as const) {
    context.strokeStyle = inks.edge;
    context.setLineDash([3, 3]);
    context.lineWidth = 1;
    context.beginPath();
    context.moveTo(Math.round(x(hz)) + 0.5, 0);
    context.lineTo(Math.round(x(hz)) + 0.5, withFall ? RIDGE + FALL : RIDGE);
    context.stroke();
    context.setLineDash([]);
    context.fillStyle = inks.ink2;
    context.font = '12.5px "Atkinson Hyperlegible Next Variable", sans-serif';
    context.textAlign = 'left';
    context.fillText(words, x(hz) + 5, 12);
  }
  context.fillStyle = inks.ink3;
  context.font = '12px "Atkinson Hyperlegible Mono Variable", monospace';
  const bottom = (withFall ? RIDGE + FALL : RIDGE) + 14;
  for (let hz = 0; hz <= UP_TO_HZ; hz += 1000) {
    context.textAlign = hz === 0 ? 'left' : hz === UP_TO_HZ ? 'right' : 'center';
    context.fillText(hz === UP_TO_HZ ? `${hz} Hz` : String(hz), x(hz), bottom);
  }
  if (withFall && shape) fall.draw(context, inks.ink, stretches, shape, width);
}

function ridgeOf({ stretches }: HeardSound, { lines }: SpectrumShape): Float32Array {
  const looks = stretches.slice(-RIDGE_LOOKS);
  return Float32Array.from({ length: lines }, (_, i) => {
    const sum = looks.reduce((all, { spectrum }) => all + 10 ** (dbfsOf(spectrum[i] ?? 0) / 10), 0);
    return 10 * Math.log10(sum / Math.max(1, looks.length) + 1e-13);
  });
}

function drawRidge(
  context: CanvasRenderingContext2D,
  inks: Inks,
  ridge: Float32Array,
  { binHz }: SpectrumShape,
  x: (hz: number) => number,
): void {
  const y = (dbfs: number): number => RIDGE - Math.max(0, (dbfs - LOWEST) / -LOWEST) * (RIDGE - 16);
  context.beginPath();
  context.moveTo(0, RIDGE);
  ridge.forEach((dbfs, i) => context.lineTo(x(i * binHz), y(dbfs)));
  context.lineTo(x((ridge.length - 1) * binHz), RIDGE);
  context.closePath();
  context.fillStyle = inks.r2;
  context.fill();
  context.strokeStyle = inks.r4;
  context.lineWidth = 1.5;
  context.beginPath();
  ridge.forEach((dbfs, i) => context.lineTo(x(i * binHz), y(dbfs)));
  context.stroke();
}

/** What fell so far, one look a line, the newest on top; only new looks are drawn. */
class Fall {
  private readonly sheet = new OffscreenCanvas(1, FALL);
  private lastMs = 0;
  private drawnWith = '';

  draw(
    context: CanvasRenderingContext2D,
    ink: string,
    looks: readonly OnClock<Stretch>[],
    { binHz, lines }: SpectrumShape,
    width: number,
  ): void {
    const shown = Math.min(lines, Math.floor(UP_TO_HZ / binHz));
    const paper = this.sheet.getContext('2d');
    if (!paper) return;
    if (this.drawnWith !== `${ink} ${shown}`) {
      this.sheet.width = shown;
      this.drawnWith = `${ink} ${shown}`;
      this.lastMs = 0;
    }
    const fresh = looks.filter(({ clockMs }) => clockMs > this.lastMs).slice(-FALL);
    this.lastMs = looks.at(-1)?.clockMs ?? this.lastMs;
    if (fresh.length > 0) {
      // The old ones fall; a copy in place of what was there, transparency and all.
      paper.globalCompositeOperation = 'copy';
      paper.drawImage(this.sheet, 0, fresh.length);
      paper.putImageData(imageOf(fresh, shown, rgbOf(ink)), 0, 0);
    }
    context.drawImage(this.sheet, 0, RIDGE, (shown * binHz * width) / UP_TO_HZ, FALL);
  }
}

function imageOf(
  looks: readonly Stretch[],
  shown: number,
  [red, green, blue]: readonly [number, number, number],
): ImageData {
  const image = new ImageData(shown, looks.length);
  looks.forEach(({ spectrum }, row) => {
    for (let i = 0; i < shown; i++) {
      const at = 4 * ((looks.length - 1 - row) * shown + i);
      image.data[at] = red;
      image.data[at + 1] = green;
      image.data[at + 2] = blue;
      image.data[at + 3] = STRENGTH[spectrum[i] ?? 0] ?? 0;
    }
  });
  return image;
}

/** How dark each level is, 0 to 255. */
const STRENGTH = Uint8Array.from({ length: 128 }, (_, line) => {
  const strength = (dbfsOf(line) - LOWEST) / (DARKEST - LOWEST);
  return 255 * Math.max(0, Math.min(1, strength)) ** 1.5;
});

/** `#rrggbb`, as the lights are written. */
function rgbOf(hex: string): [number, number, number] {
  const value = Number.parseInt(hex.slice(1), 16);
  return [value >> 16, (value >> 8) & 255, value & 255];
}
