import { layOut, type CodeBox, type Label, type TextBox } from '@larder/core/printing/layout';
import { placeOnSheet, type Sheet } from '@larder/core/printing/sheets';
import PDFDocument from 'pdfkit';
import type { Act } from '../../act';
import { registerFonts } from '../../documents/fonts';
import { bytesOf } from '../../documents/paper';
import { rectangles } from '../../documents/barcodes';

const points = 72 / 25.4;
const ruler = new PDFDocument({ autoFirstPage: false });
registerFonts(ruler);
const measure = (text: string, font: TextBox['font']): number => ruler.font(font).fontSize(1).widthOfString(text);

/** Where the boxes of all labels lie, page by page. */
function pagesOf(sheet: Sheet, labels: readonly Label[], startAt: number): { x: number; y: number; boxes: (TextBox | CodeBox)[] }[][] {
  const pages: { x: number; y: number; boxes: (TextBox | CodeBox)[] }[][] = [];
  labels.forEach((label, n) => {
    const { page, x, y } = placeOnSheet(sheet, n, startAt);
    (pages[page] ??= []).push({ x, y, boxes: layOut(label, sheet.label, measure) });
  });
  return pages;
}

/** The labels as a PDF at true size. */
export async function labelsPdf(
  sheet: Sheet,
  labels: readonly Label[],
  startAt: number,
  title: string,
  tell?: Act['tell'],
): Promise<{ pdf: Buffer; pages: number }> {
  const pages = pagesOf(sheet, labels, startAt);
  const paper = new PDFDocument({ autoFirstPage: false, info: { Title: title, Producer: 'Tidy Larder' } });
  registerFonts(paper);
  let drawn = 0;
  for (const page of pages) {
    paper.addPage({ size: [sheet.page.width * points, sheet.page.height * points], margin: 0 });
    for (const { x, y, boxes } of page ?? []) {
      for (const box of boxes) {
        if (box.kind === 'code')
          for (const one of rectangles(box)) paper.rect((x + one.x) * points, (y + one.y) * points, one.width * points, one.height * points).fill('black');
        else
          box.lines.forEach((line, index) =>
            paper
              .font(box.font)
              .fontSize(box.size * points)
              .fillColor('black')
              .text(line, (x + start(box, line)) * points, (y + box.y + index * box.size * 1.22) * points, { lineBreak: false }),
          );
      }
      tell?.((drawn += 1), labels.length);
    }
  }
  return { pdf: await bytesOf(paper), pages: pages.length };
}

const start = (box: TextBox, line: string): number => (box.align === 'left' ? box.x : box.x + (box.width - measure(line, box.font) * box.size) / 2);

const families = { text: 'Atkinson Hyperlegible Next Variable', bold: 'Atkinson Hyperlegible Next Variable', mono: 'Atkinson Hyperlegible Mono' };
const escaped = (text: string): string => text.replace(/[&<>"']/g, (sign) => `&#${sign.charCodeAt(0)};`);

/** The first page as an SVG in millimetres, drawn from the same boxes. */
export function labelsSvg(sheet: Sheet, labels: readonly Label[], startAt: number): { svg: string; pages: number } {
  const pages = pagesOf(sheet, labels, startAt);
  const perPage = sheet.columns * sheet.rows;
  const outlines = Array.from({ length: perPage }, (_, n) => placeOnSheet(sheet, n, 1)).map(
    ({ x, y }) =>
      `<rect x="${x}" y="${y}" width="${sheet.label.width}" height="${sheet.label.height}" rx="1" fill="none" stroke="#cbbfa8" stroke-width="0.2"/>`,
  );
  const drawn = (pages[0] ?? []).flatMap(({ x, y, boxes }) =>
    boxes.flatMap((box) =>
      box.kind === 'code'
        ? [
            `<path d="${rectangles(box)
              .map((one) => `M${n2(x + one.x)} ${n2(y + one.y)}h${n2(one.width)}v${n2(one.height)}h-${n2(one.width)}z`)
              .join('')}"/>`,
          ]
        : box.lines.map(
            (line, index) =>
              `<text x="${n2(x + start(box, line))}" y="${n2(y + box.y + (index * 1.22 + 0.95) * box.size)}" font-family="${families[box.font]}" font-size="${box.size}"${box.font === 'bold' ? ' font-weight="700"' : ''}>${escaped(line)}</text>`,
          ),
    ),
  );
  return {
    svg: `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${sheet.page.width} ${sheet.page.height}"><rect width="100%" height="100%" fill="#fff"/>${outlines.join('')}${drawn.join('')}</svg>`,
    pages: pages.length,
  };
}

const n2 = (value: number): string => value.toFixed(3);
