import { BOUNDS, WINDOW } from '@mistpeak/core/levels/receive-check';
import { STRETCH_MS, type HeardPacket } from '@mistpeak/core/levels/sound-watch';
import { KEPT_MS, type HeardSound, type OnClock } from '../../live/heard-sound';
import type { Inks } from '../../pieces/inks';
import { useWidth } from '../../pieces/width';
import { useDrawing } from './drawing';

const HEIGHT = 220;
const LEFT = 34;
const LOWEST = -60;
const TOP = 6;
const BOTTOM = HEIGHT - 18;

const y = (dbfs: number): number =>
  TOP + ((0 - Math.max(LOWEST, Math.min(0, dbfs))) / -LOWEST) * (BOTTOM - TOP);

/**
 * The last minute: the good window as a lit band, noise as fog at its own height, each packet a stroke from its low to its high
 * tone; a hollow start is missing, a flat top is clipped.
 */
export function LevelStrip({ heard }: { heard: HeardSound }) {
  const [box, width] = useWidth();
  const ref = useDrawing(heard, width, HEIGHT, (context, inks) => drawStrip(context, inks, heard, width));
  return (
    <div ref={box}>
      <canvas
        ref={ref}
        style={{ width: '100%', height: HEIGHT }}
        className="block"
        role="img"
        aria-label={`Levels of the last minute; the good window is ${WINDOW.lowest} to ${WINDOW.highest} dBFS. The packets stand in the list below.`}
      />
    </div>
  );
}

function drawStrip(context: CanvasRenderingContext2D, inks: Inks, heard: HeardSound, width: number): void {
  const nowMs = heard.stretches.at(-1)?.clockMs ?? 0;
  const x = (ms: number): number => LEFT + (1 - (nowMs - ms) / KEPT_MS) * (width - LEFT);
  context.fillStyle = inks.provedfill;
  context.globalAlpha = 0.22;
  context.fillRect(LEFT, y(WINDOW.highest), width - LEFT, y(WINDOW.lowest) - y(WINDOW.highest));
  context.globalAlpha = 1;
  drawScale(context, inks, width);
  context.fillStyle = inks.r3;
  context.globalAlpha = 0.55;
  context.beginPath();
  for (const { clockMs, rmsDbfs, busy } of heard.stretches) {
    const [from, to] = [Math.floor(x(clockMs - STRETCH_MS)), Math.floor(x(clockMs))];
    if (from >= LEFT && busy !== 'data') context.rect(from, y(rmsDbfs), to - from, BOTTOM - y(rmsDbfs));
  }
  context.fill();
  context.globalAlpha = 1;
  for (const packet of heard.packets) drawPacket(context, inks, packet, x);
}

function drawScale(context: CanvasRenderingContext2D, inks: Inks, width: number): void {
  context.font = '12px "Atkinson Hyperlegible Mono Variable", monospace';
  context.textAlign = 'right';
  context.textBaseline = 'middle';
  context.strokeStyle = inks.line;
  context.lineWidth = 1;
  for (let dbfs = 0; dbfs >= LOWEST; dbfs -= 10) {
    context.fillStyle = inks.ink3;
    context.fillText(`${dbfs === 0 ? '0' : `−${-dbfs}`}`, LEFT - 6, y(dbfs));
    context.beginPath();
    context.moveTo(LEFT, Math.round(y(dbfs)) + 0.5);
    context.lineTo(width, Math.round(y(dbfs)) + 0.5);
    context.stroke();
  }
  context.fillStyle = inks.ink3;
  context.textBaseline = 'alphabetic';
  context.textAlign = 'left';
  context.fillText('a minute ago', LEFT, HEIGHT - 4);
  context.textAlign = 'right';
  context.fillText('now, dBFS', width, HEIGHT - 4);
}

/** Low tone at its start, high tone at its end: the slant is the twist. */
function drawPacket(
  context: CanvasRenderingContext2D,
  inks: Inks,
  packet: OnClock<HeardPacket>,
  x: (ms: number) => number,
): void {
  const { clockMs, lastsMs, levelDbfs, markDbfs = levelDbfs, spaceDbfs = levelDbfs } = packet;
  const [from, to] = [x(clockMs - lastsMs), Math.max(x(clockMs), x(clockMs - lastsMs) + 9)];
  if (to < LEFT) return;
  const isGood = levelDbfs >= WINDOW.lowest && levelDbfs <= WINDOW.highest;
  const isClipped = packet.clippedShare > BOUNDS.clippedShare;
  context.strokeStyle = isClipped ? inks.stop : isGood ? inks.ink : inks.look;
  context.lineWidth = 3.5;
  context.lineCap = 'round';
  context.beginPath();
  context.moveTo(from, y(markDbfs));
  context.lineTo(to, y(spaceDbfs));
  context.stroke();
  if ((packet.preambleMs ?? Infinity) < BOUNDS.lateMs) {
    context.beginPath();
    context.arc(from, y(markDbfs), 4.5, 0, 2 * Math.PI);
    context.fillStyle = inks.sheet;
    context.fill();
    context.lineWidth = 2;
    context.stroke();
  }
  if (!isClipped) return;
  context.lineWidth = 2;
  context.beginPath();
  context.moveTo(from - 2, y(Math.max(markDbfs, spaceDbfs)) - 6);
  context.lineTo(to + 2, y(Math.max(markDbfs, spaceDbfs)) - 6);
  context.stroke();
}
