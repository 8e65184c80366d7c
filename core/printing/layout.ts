export type Symbology = 'code128' | 'ean13' | 'qr' | 'gs1datamatrix';

/** What a label says. */
export interface Label {
  title: string;
  /** Small, under the title. */
  detail: string;
  /** What the code is read out as, under it. */
  code: string;
  symbology: Symbology;
  /** What the code holds. */
  payload: string;
}

export interface TextBox {
  kind: 'text';
  lines: string[];
  font: 'text' | 'bold' | 'mono';
  /** Height of the letters' body, in millimetres. */
  size: number;
  x: number;
  y: number;
  width: number;
  align: 'left' | 'center';
}

export interface CodeBox {
  kind: 'code';
  symbology: Symbology;
  payload: string;
  x: number;
  y: number;
  width: number;
  height: number;
}

/** Width of a text in a font of 1 mm, in millimetres. */
export type Measure = (text: string, font: TextBox['font']) => number;

const lineHeight = 1.22;
const smallest = 0.4;

/**
 * A text at the largest size up to `most` at which it fits its box whole: wrapped at blanks, and inside words where one is wider than the
 * box. Nothing is ever cut.
 */
export function fitText(
  text: string,
  font: TextBox['font'],
  box: { width: number; height: number },
  most: number,
  measure: Measure,
): { size: number; lines: string[] } {
  for (let size = most; size > smallest; size = Math.round((size - 0.1) * 10) / 10) {
    const lines = wrap(text, font, box.width / size, measure);
    if (lines.length * size * lineHeight <= box.height + 1e-9) return { size, lines };
  }
  return { size: smallest, lines: wrap(text, font, box.width / smallest, measure) };
}

/** Lines of at most `width`, measured at 1 mm. */
function wrap(text: string, font: TextBox['font'], width: number, measure: Measure): string[] {
  const lines: string[] = [];
  let line = '';
  for (const word of text
    .split(/\s+/)
    .filter((one) => one !== '')
    .flatMap((one) => pieces(one, font, width, measure))) {
    const longer = line === '' ? word : `${line} ${word}`;
    if (measure(longer, font) <= width) line = longer;
    else {
      if (line !== '') lines.push(line);
      line = word;
    }
  }
  return line === '' ? lines : [...lines, line];
}

function pieces(word: string, font: TextBox['font'], width: number, measure: Measure): string[] {
  const found: string[] = [];
  let piece = '';
  for (const letter of word) {
    if (piece !== '' && measure(piece + letter, font) > width) {
      found.push(piece);
      piece = letter;
    } else piece += letter;
  }
  return [...found, piece];
}

const isMatrix = (symbology: Symbology): boolean => symbology === 'qr' || symbology === 'gs1datamatrix';

/** Boxes of a label of this size, from its own corner: a matrix code at the left with the words beside it, bars below the words. */
export function layOut(label: Label, { width, height }: { width: number; height: number }, measure: Measure): (TextBox | CodeBox)[] {
  const margin = Math.min(2, width * 0.04, height * 0.07);
  const inner = { width: width - 2 * margin, height: height - 2 * margin };
  const text = (
    content: string,
    font: TextBox['font'],
    box: { x: number; y: number; width: number; height: number },
    most: number,
    align: TextBox['align'],
  ): TextBox => ({
    kind: 'text',
    font,
    align,
    x: box.x,
    y: box.y,
    width: box.width,
    ...fitText(content, font, box, most, measure),
  });
  if (isMatrix(label.symbology)) {
    const side = Math.min(inner.height, inner.width * 0.42);
    const x = margin + side + margin;
    const beside = { x, width: width - x - margin };
    const code: CodeBox = {
      kind: 'code',
      symbology: label.symbology,
      payload: label.payload,
      x: margin,
      y: margin + (inner.height - side) / 2,
      width: side,
      height: side,
    };
    return [
      code,
      text(label.title, 'bold', { ...beside, y: margin, height: inner.height * 0.5 }, 4.2, 'left'),
      text(label.detail, 'text', { ...beside, y: margin + inner.height * 0.5, height: inner.height * 0.22 }, 2.8, 'left'),
      text(label.code, 'mono', { ...beside, y: margin + inner.height * 0.74, height: inner.height * 0.26 }, 3.4, 'left'),
    ].filter((box) => box.kind === 'code' || box.lines.length > 0);
  }
  const x = margin;
  const bars = (y: number, high: number): CodeBox => ({
    kind: 'code',
    symbology: label.symbology,
    payload: label.payload,
    x,
    y,
    width: inner.width,
    height: high,
  });
  const detail = label.detail === '' ? 0 : 0.13;
  return [
    text(label.title, 'bold', { x, y: margin, width: inner.width, height: inner.height * 0.3 }, 4.2, 'left'),
    text(label.detail, 'text', { x, y: margin + inner.height * 0.31, width: inner.width, height: inner.height * 0.13 }, 2.8, 'left'),
    bars(margin + inner.height * (0.33 + detail), inner.height * (0.52 - detail)),
    text(label.code, 'mono', { x, y: margin + inner.height * 0.86, width: inner.width, height: inner.height * 0.14 }, 3.4, 'center'),
  ].filter((box) => box.kind === 'code' || box.lines.length > 0);
}
