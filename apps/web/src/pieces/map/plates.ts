import type { AprsSymbol } from '@mistpeak/core/aprs/report';
import { symbolName, symbolOverlay } from '@mistpeak/core/aprs/symbols';
import Icon from 'ol/style/Icon';
import type { Inks } from '../inks';
import { DRAWING_BOX, drawingOf } from '../symbol-drawings';

/** What a station's plate says by its form (its outline is broken where its place came by the internet): a disc stands, a tile moves, a lozenge is an object that others report. */
export type PlateForm = 'stands' | 'moves' | 'object';
export type PlateTone = 'heard' | 'selected' | 'own';

const SIZE = 26;
/** Drawn larger than shown, for screens of twice the density. */
const SCALE = 2;
const GLYPH = 17;

const plates = new Map<string, Icon>();
let plateInks: Inks | undefined;

/** The plate of a symbol, drawn once for each light. */
export function plateOf(
  symbol: AprsSymbol | undefined,
  form: PlateForm,
  tone: PlateTone,
  opacity: number,
  inks: Inks,
  byInternet = false,
): Icon {
  if (inks !== plateInks) plates.clear();
  plateInks = inks;
  const key = `${symbol?.table ?? ''}${symbol?.code ?? ''} ${form} ${tone} ${opacity} ${byInternet}`;
  const known = plates.get(key);
  if (known) return known;
  const plate = new Icon({
    img: drawPlate(symbol, form, tone, inks, byInternet),
    scale: 1 / SCALE,
    opacity,
    declutterMode: 'none',
  });
  plates.set(key, plate);
  return plate;
}

function drawPlate(
  symbol: AprsSymbol | undefined,
  form: PlateForm,
  tone: PlateTone,
  inks: Inks,
  byInternet: boolean,
): HTMLCanvasElement {
  const canvas = document.createElement('canvas');
  canvas.width = canvas.height = SIZE * SCALE;
  const pen = canvas.getContext('2d') as CanvasRenderingContext2D;
  pen.scale(SCALE, SCALE);
  const [ground, ink] = {
    heard: [inks.raise, inks.ink],
    selected: [inks.provedfill, inks.onproved],
    own: [inks.ink, inks.paper],
  }[tone] as [string, string];
  pen.fillStyle = ground;
  pen.strokeStyle = tone === 'own' ? inks.provedfill : inks.ink;
  pen.lineWidth = 1.2;
  const outline = outlineOf(form);
  pen.fill(outline);
  // Its place came by the internet: the outline is broken.
  if (byInternet) pen.setLineDash([3, 3]);
  pen.stroke(outline);
  pen.setLineDash([]);
  if (symbol) drawSymbol(pen, symbol, ink, ground);
  return canvas;
}

function outlineOf(form: PlateForm): Path2D {
  const path = new Path2D();
  const middle = SIZE / 2;
  if (form === 'stands') path.arc(middle, middle, middle - 1, 0, 2 * Math.PI);
  else if (form === 'moves') path.roundRect(1.5, 1.5, SIZE - 3, SIZE - 3, 5);
  else {
    path.moveTo(middle, 0.5);
    path.lineTo(SIZE - 0.5, middle);
    path.lineTo(middle, SIZE - 0.5);
    path.lineTo(0.5, middle);
    path.closePath();
  }
  return path;
}

function drawSymbol(pen: CanvasRenderingContext2D, symbol: AprsSymbol, ink: string, ground: string): void {
  const path = drawingOf(symbolName(symbol));
  const overlay = symbolOverlay(symbol);
  pen.strokeStyle = pen.fillStyle = ink;
  pen.textAlign = 'center';
  if (path) {
    const scale = GLYPH / DRAWING_BOX;
    pen.save();
    pen.translate((SIZE - GLYPH) / 2, (SIZE - GLYPH) / 2);
    pen.scale(scale, scale);
    pen.lineWidth = 1.9;
    pen.lineJoin = pen.lineCap = 'round';
    pen.stroke(new Path2D(path));
    pen.restore();
  } else {
    pen.font = `600 14px 'Atkinson Hyperlegible Mono Variable', monospace`;
    pen.fillText(symbol.code, SIZE / 2, SIZE / 2 + 5);
  }
  if (!overlay) return;
  pen.font = `700 10px 'Atkinson Hyperlegible Mono Variable', monospace`;
  pen.strokeStyle = ground;
  pen.lineWidth = 3;
  pen.strokeText(overlay, SIZE - 7, SIZE - 4);
  pen.fillText(overlay, SIZE - 7, SIZE - 4);
}
