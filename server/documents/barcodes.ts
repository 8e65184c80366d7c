import bwip from 'bwip-js/node';
import type { CodeBox, Symbology } from '@larder/core/printing/layout';

/** Dark rectangles of a code, in modules from its upper left corner, and how many modules it is wide and high (bars: 1 high). */
export interface Modules {
  width: number;
  height: number;
  dark: { x: number; y: number; width: number; height: number }[];
}

interface Raw {
  sbs?: number[];
  pixs?: number[];
  pixx?: number;
  pixy?: number;
}

const names: Record<Symbology, string> = { code128: 'code128', ean13: 'ean13', qr: 'qrcode', gs1datamatrix: 'gs1datamatrix' };

/** Draws a code with its quiet zones. Throws what the encoder says when the payload does not fit the symbology. */
export function modulesOf(symbology: Symbology, payload: string): Modules {
  const options = symbology === 'qr' ? { eclevel: 'M' } : {};
  const [raw] = bwip.raw({ bcid: names[symbology], text: payload, ...options } as never) as unknown as Raw[];
  if (raw?.sbs) return bars(raw.sbs, symbology === 'ean13' ? 11 : 10);
  if (raw?.pixs) return matrix(raw.pixs, raw.pixx ?? 0, symbology === 'qr' ? 4 : 1);
  throw new Error(`the encoder drew nothing for ${symbology}`);
}

/** Bars and spaces in turn, a bar first. */
function bars(widths: readonly number[], quiet: number): Modules {
  let x = quiet;
  const dark = widths.flatMap((width, index) => {
    const at = x;
    x += width;
    return index % 2 === 0 && width > 0 ? [{ x: at, y: 0, width, height: 1 }] : [];
  });
  return { width: x + quiet, height: 1, dark };
}

/** Runs of dark squares, row by row. */
function matrix(pixels: readonly number[], side: number, quiet: number): Modules {
  const dark: Modules['dark'] = [];
  for (let y = 0; y * side < pixels.length; y += 1)
    for (let x = 0; x < side; x += 1) {
      if (!pixels[y * side + x]) continue;
      const from = x;
      while (x + 1 < side && pixels[y * side + x + 1]) x += 1;
      dark.push({ x: from + quiet, y: y + quiet, width: x - from + 1, height: 1 });
    }
  return { width: side + 2 * quiet, height: pixels.length / side + 2 * quiet, dark };
}

/** Rectangles of a code in its box: bars fill it, a matrix stays square; in millimetres. */
export function rectangles(box: CodeBox): { x: number; y: number; width: number; height: number }[] {
  const { width, height, dark } = modulesOf(box.symbology, box.payload);
  const isBars = height === 1;
  const unit = isBars ? Math.min(box.width / width, 0.5) : Math.min(box.width / width, box.height / height);
  const left = box.x + (box.width - width * unit) / 2;
  return dark.map((one) => ({
    x: left + one.x * unit,
    y: isBars ? box.y : box.y + one.y * unit,
    width: one.width * unit,
    height: isBars ? box.height : one.height * unit,
  }));
}

const millimetre = 72 / 25.4;

/** Draws a code into its box, whose lengths are millimetres of the page. */
export function barcodeOn(paper: PDFKit.PDFDocument, box: CodeBox): void {
  for (const one of rectangles(box)) paper.rect(one.x * millimetre, one.y * millimetre, one.width * millimetre, one.height * millimetre).fill('black');
}
